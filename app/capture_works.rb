# frozen_string_literal: true

require "open3"
require "rbconfig"
require "tmpdir"
require "fileutils"

module Web
  # Analyses that take longer than a page may wait: each runs `bin/gadwall capture` in a process of its own, so that pages stay
  # quick, its memory goes when it ends, and cancelling it is to end it.
  class CaptureWorks
    SLOW_BYTES = 3_000_000 # about half a second of analysis
    AT_ONCE = 2
    MOST = 20
    COMMAND = [RbConfig.ruby, ::File.join(Gadwall::ROOT, "bin/gadwall"), "capture"].freeze

    # state: "waiting", "running", "done", "failed" or "cancelled"; share: 0..1; message: why it failed; capture_id: once done.
    Work = Struct.new(:id, :job, :name, :state, :share, :message, :capture_id, :pid, keyword_init: true) do
      def over?
        %w[done failed cancelled].include?(state)
      end
    end

    def initialize(captures)
      @captures = captures
      @works = {}
      @lock = Mutex.new
      @slots = SizedQueue.new(AT_ONCE)
    end

    # Those of a job that are not done and not cancelled, newest first.
    def for_job(job)
      @lock.synchronize do @works.values.select do |work|
 work.job.id == job.id && !%w[done cancelled].include?(work.state) end.reverse end
    end

    # Raises Store::NotFound.
    def find(job, id)
      @lock.synchronize do
 @works[id] end.then { |work| work if work&.job&.id == job.id } or raise Store::NotFound.new(id, kind: "analysis")
    end

    # form: Forms::CaptureForm; token: of the form, so that a repeated post starts nothing twice; at: ISO 8601 text.
    # Returns the Work. Raises Gadwall::InputError.
    def start(job, form, token:, at:)
      @lock.synchronize do
        return @works[token] if @works.key?(token)

        tidy
        if @works.values.count do |work|
 !work.over? end >= MOST
          raise Gadwall::InputError.new(field: "file", given: form.name, 
expected: "a moment's patience: #{MOST} analyses are under way. Hand it in again when one is done")
        end

        @works[token] = Work.new(id: token, job: job, name: form.name, state: "waiting", share: 0.0)
      end.tap { |work| begin_with(work, form, token, at) }
    end

    # Ends it; takes a failed one off the page.
    def cancel(work)
      @lock.synchronize do
        Process.kill("KILL", work.pid) if work.pid && !work.over?
        work.state = "cancelled" unless work.state == "done"
      end
    rescue Errno::ESRCH
      work.state = "cancelled"
    end

    private

    # The last ones that are over stay, for pages that still ask after them.
    def tidy
      over = @works.select { |_, work| work.over? }.keys
      over.first([over.size - MOST, 0].max).each { |id| @works.delete(id) }
    end

    # The upload goes when the request ends, so its file gets a second name first.
    def begin_with(work, form, token, at)
      folder = Dir.mktmpdir("gadwall-capture")
      path = ::File.join(folder, "capture")
      FileUtils.cp(form.path, path)
      Thread.new do
        @slots.push(true)
        run(work, form, path, token, at) unless work.over?
      rescue StandardError => error
        warn "capture work: #{error.class}: #{error.message}"
        work.message = "The analysis stopped: #{error.message}"
        work.state = "failed"
      ensure
        @slots.pop
        FileUtils.rm_rf(folder)
      end
    end

    def run(work, form, path, token, at)
      view = "#{path}.view"
      options = form.options.flat_map { |name, value| ["--#{name}", value] }
      Open3.popen3(*COMMAND, path, *options, "--view", view, "--progress") do |input, output, errors, process|
        input.close
        @lock.synchronize { work.state == "cancelled" ? Process.kill("KILL", process.pid) : work.pid = process.pid }
        work.state = "running" unless work.over?
        answer = Thread.new { output.read }
        said = follow(work, errors)
        ended(work, process.value, said, answer.value, form, token: token, at: at, view: view, path: path)
      end
    end

    # Reads what the command says, line by line. Returns what is not progress.
    def follow(work, errors)
      errors.each_line.reject do |line|
        share = line[/\Aprogress ([\d.]+)/, 1] or next false
        work.share = share.to_f
      end
    end

    def ended(work, status, said, answer, form, token:, at:, view:, path:)
      @lock.synchronize do
        next if work.state == "cancelled"

        if status.success?
          work.capture_id = @captures.keep(work.job, name: form.name, circuit: form.circuit_id, 
analysis: JSON.parse(answer), at: at, token: token, trace: ::File.binread(view), source: form.source(path))
          work.state = "done"
        else
          work.message = said.last.to_s.strip.then { |text| text.empty? ? "The analysis ended without a word." : text }
          work.state = "failed"
        end
      end
    end
  end
end
