# frozen_string_literal: true

require "forwardable"
require "time"

module Web
  # The workshop's record as routes use it: the stores, the jobs read back, and the acts done to them.
  class Workshop
    extend Forwardable

    # What came of an act: the job as it is now; landing: where the page goes on, nil where the act was refused; errors:
    # {field => sentence}; status: of the answer.
    Performed =
      Struct.new(:dossier, :landing, :errors, :status, keyword_init: true) do
        def ok?
          !landing.nil?
        end
      end
    # The last scan of a vehicle in another job, counted. number: of that job.
    EarlierScan = Struct.new(:number, :responded, keyword_init: true)
    TRIES = 5
    STALE_PAUSE_S = 0.05
    READY_JOBS = 8 # that are looked at after a start, so that the first page of a job need not wait

    attr_reader :jobs,
                :entries,
                :summaries,
                :code_words,
                :templates,
                :captures,
                :live_columns,
                :pages,
                :loader,
                :analyses,
                :set_ups,
                :parameters,
                :stands,
                :days,
                :results

    SYSTEM_CLOCK = -> { Time.now.utc }.freeze
    # A port of Gadwall::Instruments::Adapter on a CAN interface of this machine.
    SOCKET_CAN =
      lambda do |name|
        clock = -> { Process.clock_gettime(Process::CLOCK_MONOTONIC) }
        Gadwall::Instruments::SocketCan.new(name, clock: clock)
      end

    # database: of Store.open; folder: where files of running analyses are kept, nil for a temporary one; prefix: letter
    # before the numbers of its jobs; clock: answers call with the Time that it is, in UTC; pages: Store::PageFolder,
    # nil where none are kept;
    # ports: makes a port of Instruments::Adapter by the name of an interface.
    def initialize(
      database,
      folder: nil,
      models: Gadwall::Vehicle::ModelCache.new,
      prefix: "J",
      clock: SYSTEM_CLOCK,
      ports: SOCKET_CAN,
      pages: nil
    )
      @database = database
      @pages = pages
      @ports = ports
      @clock = clock
      @practice = prefix == App::PRACTICE
      @worker = Background::Worker.new
      @jobs = Store::JobStore.new(database, prefix: prefix)
      @entries = Store::EntryStore.new(database)
      @acts = Store::ActStore.new(database, prefix: prefix)
      @stands = Stands.new(Store::StandStore.new(database))
      @days = Store::DayStore.new(database)
      @results = Store::PracticeResultStore.new(database)
      @summaries = Store::SummaryStore.new(database)
      @code_words = Store::CodeWordStore.new(database)
      @templates = Store::TemplateStore.new(database)
      @captures = Store::CaptureStore.new(database)
      @live_columns = Store::LiveColumnStore.new(database)
      @shops = Store::ShopStore.new(database)
      @set_ups = Store::SetUpStore.new(database)
      @parameters = Store::ParameterStore.new(database)
      @loader = JobLoader.new(@jobs, @entries, @summaries, Store::ClosedCaseStore.new(database), @shops, models: models)
      @set = ShopSettings.new(@shops, @loader, clock: clock)
      @analyses = AnalysisQueue.new(Store::AnalysisStore.new(database), @captures, @jobs, folder: folder)
    end

    def now
      @clock.call
    end

    # May its jobs be connected to simulated vehicles? Only those of the demo and of the practice bay.
    def simulates?
      @practice || @shops.demo?
    end

    # Makes it a workshop of our own invention.
    def mark_demo(by:, at: now)
      @shops.mark_demo(by: by, at: at.iso8601)
    end

    # What the shop has set, as of ShopSettings.
    def_delegators :@set, :shop, :charge, :units, :like, :card, :interface, :read_by, :rubric, :judge_by

    # Begins the workshop. card: {"name", "address"}; shop: Gadwall::Decision::Shop; units:
    # Gadwall::Quantity::Preferences; by: who.
    def begin_with(card:, shop:, units:, by:)
      together { @set.begin_with(card: card, shop: shop, units: units, by: by) }
    rescue StandardError
      @set.forget
      raise
    end

    # Its daily copies: DailyCopy, nil where none are made.
    attr_accessor :daily_copy

    # A tool on the vehicle's bus while the block runs: Gadwall::Instruments::Adapter. Raises
    # Gadwall::Instruments::DiagnosticInterface::Lost.
    def on_the_bus
      adapter = Gadwall::Instruments::Adapter.new(@ports.call(interface)).open
      yield adapter
    ensure
      adapter&.close
    end

    # number: text. Returns a Gadwall::Job::Dossier. Raises Store::NotFound.
    def dossier(number)
      loader.dossier(number)
    end

    # The last counted scan of this vehicle, in this job or an earlier one: EarlierScan, or nil.
    def earlier_scan(dossier)
      of_vehicle = [dossier.record, *jobs.of_vehicle(dossier.record)]
      of_vehicle.each do |record|
        scan = entries.of_kind(record, "scan").reverse.find(&:responded)
        return EarlierScan.new(number: record.number, responded: scan.responded) if scan
      end
      nil
    end

    # Does an act to a job: checked, made and written against one state of it. Where others wrote meanwhile, the act is
    # checked again against the new state, or refused where the form's page had shown the old one.
    #
    # act: class of Gadwall::Job::Acts; values: for it; by: who; token: of the form; seen: seq of the last entry that
    # its page showed, or nil; origin: of Gadwall::Job::Entries::Entry::ORIGINS where it is no hand; at: when. The block
    # gets the job after the act and says where the page goes on. Returns Performed.
    def perform(number, act, values, by:, token: nil, seen: nil, origin: nil, at: now)
      TRIES.times do
        # The job before the token: a form that was written between the two looks is found by its token, never taken for
        # somebody else's entry.
        dossier = loader.dossier(number)
        known = @acts.landing(token)
        return Performed.new(dossier: loader.dossier(number), landing: known, errors: {}, status: 303) if known
        return conflict(dossier, seen) if seen && dossier.last_seq > seen

        outcome = act.call(dossier, values, by: by, at: at)
        return refused(dossier, outcome) unless outcome.ok?

        outcome = from(outcome, origin) if origin
        after = after(dossier, outcome, by, at)
        landing = yield after
        written = write(dossier, after, outcome, by: by, at: at, token: token, landing: landing)
        next unless written == :written

        loader.keep(after)
        return Performed.new(dossier: after, landing: landing, errors: {}, status: 303)
      end
      conflict(loader.dossier(number), 0)
    end

    # Takes a vehicle in. record: Gadwall::Job::Record without id and number; entries: Array of Entry. The block gets
    # the Record and says where the page goes on. Returns that path; of a form that was already taken, where it went
    # then. Raises Gadwall::InputError.
    def take_in(record, entries, by:, token: nil, at: now)
      at = at.iso8601
      landing = nil
      made =
        @acts.create(record, entries, by: by, at: at, token: token) do |job|
          stamped = stamped(entries, 0, at, by)
          landing = yield job
          [Gadwall::Job::Summary.of(loader.new_dossier(job, stamped)), landing]
        end
      made ? landing : @acts.landing(token)
    end

    # Takes a vehicle in by values that are known to be sound, of Gadwall::Job::Acts::TakeIn; else as take_in.
    def check_in(values, by:, token: nil, at: now, &landing)
      entries = Gadwall::Job::Acts::TakeIn.call(nil, values, by: by, at: at).entries
      take_in(Gadwall::Job::Acts::TakeIn.record(values, at: at), entries, by: by, token: token, at: at, &landing)
    end

    # The summary of a job as it stands, computed where it is missing or of an older engine.
    def summary(dossier)
      known = summaries.find(dossier.record)
      return known if known && known.engine == Gadwall::Diagnosis.engine

      renew(dossier)
    end

    # What takes time and may wait: summaries that are missing or stale, analyses that a restart interrupted.
    def begin_background_work
      @background = true
      analyses.take_up
      Thread.new do
        renew_stale
        make_ready
      end
    end

    # Computes what every assessment of such a vehicle needs, without keeping anybody waiting; where background work is
    # done.
    def prepare(vehicle)
      return unless @background

      system = loader.system(vehicle)
      beside do
        system.circuits.each { |circuit| circuit.model.monitors && circuit.model.rest }
        loader.models.put_away
      end
    end

    # Puts away what a page had to compute of wirings, once for all the pages that ask meanwhile.
    def keep_computed
      beside(once: :put_away) { loader.models.put_away }
    end

    # Runs the block beside the pages, after what was asked for before, where background work is done. once: as of
    # Background::Worker#later.
    def beside(once: nil, &block)
      @worker.later(once: once, &block) if @background
    end

    # Everything that is written within the block is written, or nothing: an act and what goes with it are one.
    def together(&)
      @database.transaction(mode: :immediate, &)
    rescue StandardError
      loader.forget # what was kept may be ahead of what is written
      stands.forget
      raise
    end

    # Renews summaries one by one until none is stale.
    def renew_stale
      Background.quietly do
        ids = summaries.stale_ids(Gadwall::Diagnosis.engine)
        ids.each do |id|
          renew(loader.by_id(id))
          sleep STALE_PAUSE_S
        end
      end
    end

    # Assesses the jobs that were written to last: most of what they need, others need too.
    def make_ready
      Background.quietly do
        summaries.lately_open_ids(READY_JOBS).each { |id| loader.by_id(id).stage }
        loader.models.put_away
      end
    end

    private

    def renew(dossier)
      summary = Gadwall::Job::Summary.of(dossier, before: summaries.find(dossier.record))
      summaries.renew(dossier.record, summary, dossier.last_seq)
      summary
    end

    # The job as it is once the act is written.
    def after(dossier, outcome, by, at)
      entries = stamped(outcome.entries, dossier.last_seq, at.iso8601, by)
      changed = { vehicle: outcome.vehicle, promised_at: outcome.promised_at }.compact
      record =
        if changed.empty?
          dossier.record
        else
          dossier.record.dup.tap { |copy| changed.each { |name, value| copy[name] = value } }
        end
      system = outcome.vehicle ? loader.system(outcome.vehicle) : dossier.system
      dossier.with(entries, record: record.freeze, system: system)
    end

    # What came of an act, said to come from elsewhere.
    def from(outcome, origin)
      outcome.dup.tap { |copy| copy.entries = copy.entries.map { |entry| entry.from(origin) } }.freeze
    end

    def stamped(entries, last, at, by)
      entries.each_with_index.map { |entry, i| entry.stamped(seq: last + i + 1, at: at, by: by) }
    end

    # Computed before the database is held: what was read and concluded is written only if nobody wrote meanwhile.
    def write(dossier, after, outcome, by:, at:, token:, landing:)
      summary = Gadwall::Job::Summary.of(after, before: summaries.find(dossier.record))
      @acts.write(
        after.record,
        outcome.entries,
        seen: dossier.last_seq,
        summary: summary,
        by: by,
        at: at.iso8601,
        causes: outcome.entries.grep(Gadwall::Job::Entries::Handover).flat_map(&:causes),
        token: token,
        landing: landing
      )
    end

    def conflict(dossier, seen)
      error = Store::Conflict.new(entries.since(dossier.record, seen))
      Performed.new(dossier: dossier, errors: { "conflict" => error.message }, status: 409)
    end

    def refused(dossier, outcome)
      return Performed.new(dossier: dossier, errors: { "closed" => outcome.closed }, status: 409) if outcome.closed

      Performed.new(dossier: dossier, errors: outcome.errors, status: 422)
    end
  end
end
