# frozen_string_literal: true

require "open3"
require "rbconfig"
require "tmpdir"
require "fileutils"

module Web
  # Analyses that take longer than a page may wait: each runs `bin/gadwall capture` in a process of its own, so that
  # pages stay quick, its memory goes when it ends, and cancelling it is to end it. They are kept in a table and their
  # files in a folder beside the database, so that a restart takes them up again.
  class AnalysisQueue
    SLOW_BYTES = 3_000_000 # about half a second of analysis
    AT_ONCE = 2
    MOST = 20
    COMMAND = [RbConfig.ruby, ::File.join(Gadwall::ROOT, "bin/gadwall"), "capture"].freeze

    # analyses, captures, jobs: stores; folder: for the files of running analyses, nil for a temporary one.
    def initialize(analyses, captures, jobs, folder: nil)
      @analyses = analyses
      @captures = captures
      @jobs = jobs
      @folder = folder
      @pids = {}
      @lock = Mutex.new
      @slots = SizedQueue.new(AT_ONCE)
    end

    # Those of a job that wait, run or failed, newest first.
    def for_job(job)
      @analyses.for_job(job)
    end

    # Raises Store::NotFound.
    def find(job, id)
      found = @analyses.find(id)
      found&.job_id == job.id ? found : raise(Store::NotFound.new(id, kind: "analysis"))
    end

    # form: Forms::CaptureForm; id: token of the form, so that a repeated post starts nothing twice; at: ISO 8601 text.
    # Returns the Analysis. Raises Gadwall::InputError where too many are under way, Store::Unusable when the disk is
    # full.
    def start(job, form, id:, at:)
      known = @analyses.find(id)
      return known if known

      refuse_more if @analyses.open_count >= MOST
      copy(form.path, file_of(id))
      fresh = @analyses.begin(id, job, name: form.name, circuit: form.circuit_id, options: form.options, at: at)
      fresh && begin_thread(fresh)
      fresh || @analyses.find(id)
    end

    # Ends it; takes a failed one off the page.
    def cancel(analysis)
      return unless @analyses.cancel(analysis.id)

      pid = @lock.synchronize { @pids[analysis.id] }
      Process.kill("KILL", pid) if pid
    rescue Errno::ESRCH
      nil # it ended just now
    ensure
      FileUtils.rm_rf(folder_of(analysis.id)) unless @lock.synchronize { @pids.key?(analysis.id) }
    end

    # Takes up what a restart interrupted, and removes files of what is over.
    def take_up
      open = @analyses.unfinished
      stray = Dir[::File.join(root, "*")].map { |path| ::File.basename(path) } - open.map(&:id)
      stray.each { |id| FileUtils.rm_rf(folder_of(id)) }
      open.each { |analysis| ::File.exist?(file_of(analysis.id)) ? begin_thread(analysis) : lost(analysis) }
    end

    private

    def root
      @root ||= (@folder || Dir.mktmpdir("gadwall-analyses")).tap { |path| FileUtils.mkdir_p(path) }
    end

    def folder_of(id)
      ::File.join(root, id)
    end

    def file_of(id)
      ::File.join(folder_of(id), "capture")
    end

    def refuse_more
      raise Gadwall::InputError.new(
              field: "file",
              given: "one more",
              expected: "fewer than #{MOST} analyses under way",
              fix: "Hand it in again when one is done."
            )
    end

    # The upload goes when the request ends, so its file is copied first.
    def copy(from, to)
      FileUtils.mkdir_p(::File.dirname(to))
      FileUtils.cp(from, "#{to}.part#{Thread.current.object_id}")
      FileUtils.mv("#{to}.part#{Thread.current.object_id}", to)
    rescue Errno::ENOSPC, Errno::EDQUOT
      FileUtils.rm_rf(::File.dirname(to))
      raise Store::Unusable, "The disk is full: the file was not taken. Free some space, then hand it in again."
    end

    def lost(analysis)
      @analyses.failed(analysis.id, "The file was lost in a restart. Hand it in again.")
    end

    def begin_thread(analysis)
      Thread.new do
        @slots.push(true)
        run(analysis) if @analyses.running(analysis.id)
      rescue StandardError => error
        warn "analysis #{analysis.id}: #{error.class}: #{error.message}"
        @analyses.failed(analysis.id, stopped(error))
      ensure
        @slots.pop
        FileUtils.rm_rf(folder_of(analysis.id))
      end
    end

    def stopped(error)
      return error.message if error.is_a?(Store::Unusable)

      error.is_a?(Errno::ENOSPC) ? "The disk is full. Free some space, then hand it in again." : "The analysis stopped."
    end

    def run(analysis)
      path = file_of(analysis.id)
      view = "#{path}.view"
      options = analysis.options.flat_map { |name, value| ["--#{name}", value] }
      Open3.popen3(*COMMAND, path, *options, "--view", view, "--progress") do |input, output, errors, process|
        input.close
        watched(analysis, process.pid) do
          answer = Thread.new { output.read }
          last_words = follow(analysis, errors)
          ended(analysis, process.value, last_words, answer.value, view)
        end
      end
    end

    # The process is known while it runs, so that it can be ended; one that was cancelled before it began ends at once.
    def watched(analysis, pid)
      @lock.synchronize { @pids[analysis.id] = pid }
      Process.kill("KILL", pid) if @analyses.find(analysis.id).state == "cancelled"
      yield
    ensure
      @lock.synchronize { @pids.delete(analysis.id) }
    end

    # Reads what the command says, line by line. Returns the last line that is not progress.
    def follow(analysis, errors)
      others =
        errors.each_line.reject do |line|
          share = line[/\Aprogress ([\d.]+)/, 1]
          @analyses.progress(analysis.id, share.to_f) if share
          share
        end
      others.last.to_s.strip
    end

    def ended(analysis, status, last_words, answer, view)
      return if @analyses.find(analysis.id).state == "cancelled"
      return failed(analysis, last_words) unless status.success?

      @analyses.done(analysis.id) { store(analysis, JSON.parse(answer), view) }
    end

    def failed(analysis, last_words)
      @analyses.failed(analysis.id, last_words.empty? ? "The analysis ended without a word." : last_words)
    end

    def store(analysis, result, view)
      @captures.save(
        @jobs.by_id(analysis.job_id),
        name: analysis.name,
        circuit: analysis.circuit,
        analysis: result,
        at: analysis.at,
        token: analysis.id,
        waveform: ::File.binread(view),
        source: Forms::CaptureForm.source_of(analysis.options["signal"], file_of(analysis.id))
      )
    end
  end
end
