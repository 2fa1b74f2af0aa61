# frozen_string_literal: true

require "digest"
require "time"

module Web
  # Where routes get jobs: store and core joined. Systems are kept by vehicle sheet, as compiling one takes longer than
  # asking it; what is kept is immutable knowledge of a sheet, never of a job.
  class Desk
    RATE = 70 # the shop's price of an hour; demo
    KEPT_SYSTEMS = 24
    KEPT_FILES = 64

    # One job with its log and where it stands.
    File = Struct.new(:job, :log, :standing, keyword_init: true) do
      def last_seq
        log.entries.size
      end
    end

    attr_reader :jobs, :entries, :code_words, :templates, :captures, :live_columns, :works

    def initialize(database)
      @database = database
      @jobs = Store::JobStore.new(database)
      @entries = Store::EntryStore.new(database)
      @code_words = Store::CodeWordStore.new(database)
      @templates = Store::TemplateStore.new(database)
      @captures = Store::CaptureStore.new(database)
      @live_columns = Store::LiveColumnStore.new(database)
      @works = CaptureWorks.new(@captures)
      @systems = {}
      @models = {}
      @files = {}
      @lock = Mutex.new
    end

    # Raises Store::NotFound.
    def file(number)
      job = jobs.find(number)
      open_file(job, entries.for_job(job))
    end

    # Raises Gadwall::InputError where what was seen does not fit the new sheet: a reading at a connector that is gone.
    def refine(job, vehicle)
      system = system_for(vehicle)
      Gadwall::Evidence::Log.new(entries.for_job(job), system).body
      jobs.refine(job, vehicle)
    end

    def all_files
      by_job = entries.by_job
      jobs.all.map { |job| open_file(job, by_job.fetch(job.id, [])) }
    end

    # Writes an entry to a job. params: the form's, with its token and the seq it had seen.
    def append(job, entry, params, by: "technician")
      entries.append(job, entry, at: now.iso8601, by: by, token: params["form_token"], 
seen: params["seen"]&.match?(/\A\d+\z/) ? params["seen"].to_i : nil)
    end

    def now
      Time.now.utc
    end

    def system_for(vehicle)
      key = Digest::SHA256.hexdigest(JSON.generate(vehicle))
      @lock.synchronize do
        @systems.shift if @systems.size > KEPT_SYSTEMS
        @systems[key] ||= Gadwall::Vehicle::System.build(Gadwall::Vehicle::Sheet.new(vehicle), models: @models)
      end
    end

    # Computes what the first pages would wait for. Called at start, in a thread of its own.
    def warm_up
      all_files
    end

    private

    # The log only grows, so job, sheet, length and closed cases name its contents, and what was computed from them holds.
    def open_file(job, entries)
      closed_case_counts = @entries.closed_case_counts(except: job)
      key = [job.id, job.vehicle.hash, entries.size, closed_case_counts.hash]
      @lock.synchronize { @files[key] } || begin
        log = Gadwall::Evidence::Log.new(entries, system_for(job.vehicle), closed_case_counts: closed_case_counts)
        file = File.new(job: job, log: log, standing: Gadwall::Job::Standing.new(log, rate: RATE)).freeze
        @lock.synchronize do
          @files.shift if @files.size > KEPT_FILES
          @files[key] = file
        end
      end
    end
  end
end
