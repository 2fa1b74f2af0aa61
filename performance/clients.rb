# frozen_string_literal: true

require "tmpdir"
require_relative "figures"
require_relative "shop"
require_relative "server_process"

# Twenty browsers at ten jobs for a minute: each checks a vehicle in or shares one, and records readings one after the
# other. Nothing may be lost, doubled or kept waiting.
class Clients
  BROWSERS = 20
  JOBS = 18 # so two of them are shared by two browsers
  HANDS_S = 1 # between two readings; no probe is moved faster
  SECONDS = 60
  NUMERIC =
    %w[front_left front_right rear_left rear_right]
      .product(
        %w[feed_volts feed_to_body].product(%w[module_plug body_connector sensor_plug]).map { |pair| pair.join(".") }
      )
      .map { |pair| pair.join(".") }
      .freeze

  def initialize(figures, seconds: SECONDS)
    @figures = figures
    @seconds = seconds
    @trips = Queue.new
    @refused = Queue.new
  end

  def run
    Dir.mktmpdir do |folder|
      path = File.join(folder, "clients.sqlite3")
      ServerProcess.run(path) do |server|
        @numbers = check_in(server.client)
        @until = Process.clock_gettime(Process::CLOCK_MONOTONIC) + @seconds
        Array.new(BROWSERS) { |n| Thread.new { work(server.client, n) } }.each(&:join)
        @memory_mb = server.memory_mb
      end
      tell(path)
    end
  end

  private

  def check_in(client)
    client.sign_in("Bench")
    Array.new(JOBS) do |k|
      client.check_in(Shop.sheet(k), customer: "Client #{k}").tap { |number| client.pre_scan(number) }
    end
  end

  def work(client, n)
    client.sign_in("Browser #{n}")
    number = @numbers[n % @numbers.size]
    page = client.get("/jobs/#{number}/trace")
    count = 0
    while Process.clock_gettime(Process::CLOCK_MONOTONIC) < @until
      page = trip(client, number, page, n, count += 1)
      page = client.get("/jobs/#{number}/trace") if page.status == 409
      sleep HANDS_S
    end
  end

  # One reading as a browser sends it: the form, answered by the screen with what it changed and the next form. Battery
  # voltage, with digits that differ from every other.
  def trip(client, number, page, browser, count)
    fields = client.hidden(page, "/jobs/#{number}/readings")
    typed = format("12.0%02d%04d", browser + 10, count)
    given = fields.merge("test" => NUMERIC[count % NUMERIC.size], "reading" => typed)
    answer = client.post("/jobs/#{number}/readings", given, htmx: true)
    case answer.status
    when 409
      @refused << answer.seconds
    when 200
      @trips << [typed, answer.seconds]
    else
      raise "reading: #{answer.status} #{answer.body[0, 300]}"
    end
    answer
  end

  def tell(path)
    trips = Array.new(@trips.size) { @trips.pop }
    database = Store.open(path)
    ids = database[:jobs].where(number: @numbers).select_map(:id)
    reading = Sequel.lit("json_extract(payload, '$.reading')")
    kept = database[:entries].where(kind: "reading", job_id: ids).select_map(reading)
    database.disconnect
    name = "#{BROWSERS} browsers for #{@seconds} s"
    @figures.tell("#{name}, p95 of #{trips.size} readings", Figures.p95(trips.map(&:last)), 1, "s", digits: 2)
    @figures.tell("#{name}, longest request", trips.map(&:last).max, 3, "s", digits: 2)
    @figures.tell("#{name}, memory of the server afterwards", @memory_mb, 300, "MB")
    @figures.say("#{name}: #{@refused.size} refused because the other browser had saved first")
    @figures.hold("#{name}: every reading kept once", kept.sort == trips.map(&:first).sort)
  end
end
