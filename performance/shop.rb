# frozen_string_literal: true

require "fileutils"
require_relative "../app/boot"
require_relative "../demo/sign_off"
require_relative "../evaluation/boot"
require_relative "server_process"

# A shop with ten thousand jobs and three hundred thousand entries over two hundred builds of vehicle, filled once and
# kept. Jobs of each kind are made by acts, then copied under other numbers.
class Shop
  JOBS = 10_000
  ENTRIES = 300_000
  BUILDS = 200
  CLOSED = 8 # jobs worked through to the hand-over, copied for the archive
  OPEN_COPIES = 2 # of each build
  READY = 12 # copies that wait for their hand-over
  BY = "Bench"
  Acts = Gadwall::Job::Acts

  attr_reader :path

  # Makes it at a path where there is none of this engine. out: for progress. Returns a Shop.
  def self.at(path, out: $stdout)
    shop = new(path)
    shop.fill(out) unless shop.filled?
    shop.open_pages unless shop.pages_kept?
    shop
  end

  def initialize(path)
    @path = path
    @random = Random.new(9)
    @start = Time.utc(2026, 1, 5, 8)
  end

  def filled?
    File.exist?("#{path}.made") && File.read("#{path}.made") == made_by
  end

  # What the shop and its tables depend on.
  def made_by
    "#{Gadwall::Diagnosis.engine} #{Store::TableFolder.version}"
  end

  # Were its pages made by this very program?
  def pages_kept?
    Dir["#{path}-pages/#{Store::PageFolder.version}/*"].size >= BUILDS * OPEN_COPIES
  end

  # A sheet of build k: answers that differ, and wheel circuits with lengths of their own.
  def self.sheet(k)
    pick = ->(field, n) { Gadwall::Vehicle::FIELDS.fetch(field).then { |answers| answers[(k / n) % answers.size] } }
    answers = %w[driver_side park_brake stability towing pump fluid_level brake_switch pad_wear_front single_wire]
    sheet = answers.each_with_index.to_h { |field, n| [field, pick.call(field, n + 1)] }
    sheet["sensors"] = %w[active passive direction][k % 3]
    length = ->(n) { { "length_m" => (1.0 + (k * 0.01) + n).round(2), "cross_section_mm2" => 0.5 } }
    lengths = { "sections" => [length.call(1), length.call(2)] }
    corners = %w[front_left front_right rear_left rear_right]
    sheet.merge("name" => "Bench van #{k}", "circuits" => corners.to_h { |corner| [corner, lengths] })
  end

  def fill(out)
    FileUtils.mkdir_p(File.dirname(path))
    Store.remove(path)
    @database = Store.open(path)
    # as in a shop that has been running: what was computed lies beside the database
    models = Gadwall::Vehicle::ModelCache.new(place: Store::TableFolder.new("#{path}-tables"))
    @workshop = Web::Workshop.new(@database, models: models)
    out.puts "filling a shop with #{JOBS} jobs over #{BUILDS} builds, once ..."
    closed = Array.new(CLOSED) { |k| worked_through(k) }
    open = Array.new(BUILDS) { |k| under_way(k) }
    OPEN_COPIES.times { |n| open.each { |id| copy(id, 10_000 + n) } }
    left = JOBS - @database[:jobs].count
    left.times.each_slice(500) { |slice| @database.transaction { slice.each { |n| copy(closed[n % CLOSED], n) } } }
    pad
    models.put_away
    @database.disconnect
    File.write("#{path}.made", made_by)
  end

  # Every job in the workshop was looked at since somebody last wrote to it, as in a shop that has been running.
  def open_pages
    ServerProcess.run(path) do |server|
      client = server.client
      client.sign_in(BY)
      database = Store.open(path)
      open = database[:job_summaries].join(:jobs, id: :job_id).where(closed: 0, stage: "trace").select_map(:number)
      database.disconnect
      open.each { |number| client.get("/jobs/#{number}/trace") }
    end
  end

  private

  def take_in(k)
    values = {
      vehicle: Shop.sheet(k),
      customer: "Customer #{k}",
      complaint: "Lamp on, vehicle #{k}",
      ids: %w[at_key_on],
      triage: []
    }
    @workshop.check_in(values, by: BY, at: @start, &:number)
  end

  def perform(number, act, **values)
    done = @workshop.perform(number, act, values, by: BY, at: @start += 60) { |job| "/jobs/#{job.number}" }
    raise "bench: #{number} #{act}: #{done.errors}" unless done.ok?
  end

  def vehicle(number, truth)
    system = @workshop.dossier(number).system
    Gadwall::Evaluation::OwnCircuits::SimulatedVehicle.new(system, truth: truth, random: @random, noise: 0.01)
  end

  def scanned(number, fault)
    vehicle = vehicle(number, fault)
    codes = [{ "code" => "C0031", "failure_type" => "13", "status" => "2F" }]
    perform(number, Acts::KeepScan, modules: [{ "name" => "ABS", "answered" => true }], codes: codes)
    vehicle
  end

  # From check-in to where the vehicle waits for its hand-over; copied there, then handed over. Returns the job's id.
  def worked_through(k)
    number = take_in(k)
    vehicle = scanned(number, "front_left.sensor.open")
    measure(number, vehicle) until @workshop.dossier(number).stage.id == "decide"
    perform(number, Acts::Decide, option: option(number), signed_by: "Customer #{k}", words: "yes")
    sign(number) until @workshop.dossier(number).stage.id == "proof"
    prove(number)
    id = @workshop.jobs.find(number).id
    (READY / CLOSED).succ.times { |n| copy(id, 20_000 + n) }
    perform(number, Acts::HandOver, words: "as agreed")
    id
  end

  def option(number)
    @workshop.dossier(number).options.choices.find { |choice| choice.refused.nil? }.id
  end

  def measure(number, vehicle)
    option = @workshop.dossier(number).assessment.next_tests.first
    take(number, option.circuit, option.test, vehicle)
  end

  def take(number, circuit, test, vehicle, phase: "before")
    typed = vehicle.perform(circuit, test).to_s
    perform(number, Acts::TakeReading, test: "#{circuit.id}.#{test.id}", typed: typed, phase: phase)
  end

  # The next step of the plan, with sound figures.
  def sign(number)
    step = @workshop.dossier(number).plan.next_row.step
    perform(number, Acts::BeginWait, step: step.id) if step.wait_minutes
    @start += 60 * (step.wait_minutes || 60)
    perform(number, Acts::SignStep, step: step.id, **Demo::SignOff.values(step))
  end

  def prove(number)
    sound = vehicle(number, [])
    perform(number, Acts::KeepScan, phase: "after", modules: [{ "name" => "ABS", "answered" => true }], codes: [])
    confirming = @workshop.dossier(number).proof.confirming_test
    take(number, confirming.circuit, confirming.test, sound, phase: "after")
    sign(number) while @workshop.dossier(number).plan.next_row&.step&.phase == "drive"
    perform(number, Acts::SignDrive, read: "1")
    sign(number) while @workshop.dossier(number).plan.next_row
  end

  # A job being traced: a scan and two dozen readings, written together. Returns its id.
  def under_way(k)
    number = take_in(k)
    vehicle = scanned(number, "front_left.sensor.open")
    dossier = @workshop.dossier(number)
    tests = dossier.system.test_ids.grep(/\A(front_left|front_right|brake_switch)\./).sample(24, random: @random)
    entries =
      tests.map do |id|
        circuit, test = dossier.system.test(id)
        result = vehicle.perform(circuit, test)
        kind = test.numeric? ? "reading" : "finding"
        Gadwall::Job::Entries.from_h(
          "kind" => kind,
          "test" => id,
          kind == "reading" ? "reading" : "result" => result.to_s
        )
      end
    write(dossier, entries)
    dossier.record.id
  end

  def write(dossier, entries)
    at = (@start += 60).iso8601
    stamped = entries.each_with_index.map { |entry, i| entry.stamped(seq: dossier.last_seq + i + 1, at: at, by: BY) }
    after = dossier.with(stamped, record: dossier.record, system: dossier.system)
    summary = Gadwall::Job::Summary.of(after)
    Store::ActStore.new(@database).write(
      after.record,
      entries,
      seen: dossier.last_seq,
      summary: summary,
      by: BY,
      at: at
    )
  end

  # The same job once more under another number.
  def copy(id, n)
    job = @database[:jobs].first(id: id)
    next_id = @database[:jobs].max(:id) + 1
    number = format("J%03d", next_id + 100)
    fresh = { id: next_id, number: number, customer: "Customer #{n}", form_token: nil }
    @database[:jobs].insert(job.merge(fresh))
    columns = %i[seq kind version payload at by]
    @database[:entries].insert(
      %i[job_id] + columns,
      @database[:entries].where(job_id: id).select(Sequel.lit(next_id.to_s), *columns)
    )
    summary = @database[:job_summaries].first(job_id: id)
    search = "#{number} bench van customer #{n} #{summary[:codes]}".downcase
    @database[:job_summaries].insert(summary.merge(job_id: next_id, search: search))
    cases = @database[:closed_cases].where(job_id: id)
    @database[:closed_cases].multi_insert(
      cases.map { |row| row.except(:id).merge(job_id: next_id, closed_at: (@start - (n * 900)).iso8601) }
    )
  end

  # Notes until there are as many entries as were promised.
  def pad
    missing = ENTRIES - @database[:entries].count
    ids = @database[:jobs].select_order_map(:id)
    last = @database[:entries].group(:job_id).select_hash(:job_id, Sequel.function(:max, :seq).as(:last))
    payload = JSON.generate("text" => "bench")
    rows =
      Array.new([missing, 0].max) do |n|
        id = ids[n % ids.size]
        [id, last[id] += 1, "note", 1, payload, @start.iso8601, BY]
      end
    rows.each_slice(2000) { |slice| @database[:entries].import(%i[job_id seq kind version payload at by], slice) }
    last.each_slice(500) do |slice|
      @database.transaction { slice.each { |id, seq| @database[:job_summaries].where(job_id: id).update(seq: seq) } }
    end
  end
end
