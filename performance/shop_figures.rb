# frozen_string_literal: true

require "fileutils"
require "tmpdir"
require_relative "figures"
require_relative "shop"
require_relative "server_process"

# The shop of ten thousand jobs behind a real server: pages, memory, a build never seen, a hand-over.
class ShopFigures
  PAGES = { "bay list" => "/", "closed jobs" => "/jobs/closed?q=customer+77" }.freeze
  JOB_PAGES = { "job page" => "", "trace" => "/trace", "vehicle sheet" => "/vehicle" }.freeze
  REQUESTS = 2000
  VISITED = 500
  CLOSED = 100 # of these
  EMPTY = "/nothing-here" # a page of the same stack with nothing on it

  def initialize(figures, path)
    @figures = figures
    @path = path
  end

  def run
    Shop.at(@path)
    Dir.mktmpdir do |folder|
      FileUtils.cp_r([@path, "#{@path}-tables", "#{@path}-pages"], folder)
      in_copy(File.join(folder, File.basename(@path)))
    end
  end

  private

  # Each run works on a copy: what it hands over is there again for the next.
  def in_copy(path)
    choose_jobs(path)
    ServerProcess.run(path) do |server|
      @server = server
      @client = server.client
      @client.sign_in("Bench")
      @figures.tell("start to first page, #{Shop::JOBS} jobs", server.start_s, 2, "s", digits: 2)
      unseen
      seen
      hand_over
      never_seen
    end
  end

  def choose_jobs(path)
    database = Store.open(path)
    listed = database[:job_summaries].join(:jobs, id: :job_id).order(:job_id)
    name = Sequel.lit("json_extract(vehicle, '$.name')").as(:name)
    open = listed.where(closed: 0, stage: "trace").select_map([:number, name])
    @one_of_each_build = open.uniq(&:last).map(&:first)
    @closed = listed.where(closed: 1).limit(CLOSED).select_map(:number)
    @ready = listed.where(stage: "report", closed: 0).select_map(:number)
    @visited = (@one_of_each_build + open.map(&:first)).uniq.first(VISITED - CLOSED) + @closed
    database.disconnect
  end

  READY_S = 3 # of the first minute; the server makes ready what is in the house

  # The first look at each build since the start that no kept page answers, while another browser works.
  def unseen
    sleep READY_S
    kept = Figures.p95(@one_of_each_build.map { |number| @client.get("/jobs/#{number}/trace").seconds })
    @figures.tell("trace of a job since the start, as it was kept, p95", kept * 1000, 100, "ms")
    look = ->(number) { @client.get("/jobs/#{number}/trace?circuit=front_left").seconds }
    times, others = beside { @one_of_each_build.map(&look) }
    @figures.tell(
      "trace of a build not seen since the start, longest of #{times.size}",
      times.max,
      1,
      "s",
      digits: 2,
      note: middle(times)
    )
    @figures.tell("other requests meanwhile, longest of #{others.size}", others.max * 1000, 300, "ms", digits: 0)
  end

  def middle(seconds)
    "(median #{format("%.2f", seconds.sort[seconds.size / 2])}, the very first #{format("%.2f", seconds.first)})"
  end

  # Runs the block while another client loads pages. Returns what the block gives, and the seconds of the others.
  def beside
    other = @server.client
    seen = ["/", "/jobs/#{@closed.last}"]
    seen.each { |path| other.get(path) }
    done = false
    thread =
      Thread.new do
        seconds = []
        until done
          seconds << other.get(seen[seconds.size % seen.size]).seconds
          sleep 0.25
        end
        seconds
      end
    result = yield
    done = true
    [result, thread.value]
  end

  def seen
    pages = PAGES.to_h { |name, path| [name, Array.new(60) { path }] }
    each = REQUESTS / JOB_PAGES.size
    JOB_PAGES.each { |name, tail| pages[name] = Array.new(each) { |n| "/jobs/#{@visited[n % @visited.size]}#{tail}" } }
    empty = Figures.p95(Array.new(60) { @client.get(EMPTY).seconds }) * 1000
    pages.each do |name, paths|
      p95 = Figures.p95(paths.map { |path| follow(path) }) * 1000
      @figures.tell(
        "#{name}, p95 of #{paths.size}",
        p95,
        100,
        "ms",
        note: "#{format("%.1f", p95 / empty)} x empty page"
      )
    end
    @figures.tell("server memory after that", @server.memory_mb, 300, "MB", digits: 0)
  end

  # A job's own address leads on to its stage; both count.
  def follow(path)
    answer = @client.get(path)
    return answer.seconds if answer.status == 200
    raise "#{path}: #{answer.status}" unless answer.status == 303

    answer.seconds + @client.get(URI(answer.headers["location"]).path).seconds
  end

  def hand_over
    before = visits
    times =
      @ready
        .first(5)
        .map do |number|
          page = @client.get("/jobs/#{number}/proof")
          fields = @client.hidden(page, "/jobs/#{number}/handover")
          answer = @client.post("/jobs/#{number}/handover", fields.merge("words" => "as agreed"))
          raise "#{number}: #{answer.status}" unless answer.status == 303

          answer.seconds * 1000
        end
    @figures.tell("hand-over, longest of #{times.size}", times.max, 200, "ms", digits: 0)
    @figures.tell("other jobs after it, times as long as before", visits / before, 1.5, "times", digits: 2)
  end

  def visits
    @closed.map { |number| @client.get("/jobs/#{number}/report").seconds }.sort[CLOSED / 2]
  end

  # A vehicle that nobody here has had: checked in, scanned, traced.
  def never_seen
    (time, memory), others = beside { check_in }
    @figures.tell("pre-scan of a vehicle never seen, to its trace page", time, 1, "s", digits: 2)
    @figures.tell("server memory after it", memory, 300, "MB", digits: 0)
    @figures.tell("other requests meanwhile, longest of #{others.size}", others.max * 1000, 300, "ms", digits: 0)
  end

  def check_in
    number = @client.check_in(Shop.sheet(Shop::BUILDS + rand(1000)), customer: "A. Reed")
    saved = @client.pre_scan(number)
    [saved.seconds + @client.get("/jobs/#{number}/trace").seconds, @server.memory_mb]
  end
end
