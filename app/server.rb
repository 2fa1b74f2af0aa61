# frozen_string_literal: true

require "fileutils"
require "socket"
require "puma"
require "puma/configuration"
require "puma/launcher"

module Web
  # The application behind Puma: which address, which names, which limits.
  class Server
    # The address reaches further than the person who starts it may think.
    class Beyond < StandardError
    end

    LOOPBACK = %w[127.0.0.1 localhost ::1].freeze
    EVERY_ADDRESS = %w[0.0.0.0 ::].freeze
    THREADS = [1, 4].freeze
    SLOW_CLIENT_S = 20 # for a body that arrives in drops
    MOST_BYTES = App::MOST_CAPTURE_BYTES + App::MOST_BYTES

    # Puma answers some requests before the application sees them (a body beyond its limit, a head that is no HTTP).
    # Those answers get the application's headers too.
    module HeadersOnEveryAnswer
      private

      def prepare_response(status, headers, ...)
        missing = Guards::Headers::ALWAYS.reject { |name, _| headers.key?(name) }
        super(status, headers.merge(missing), ...)
      end
    end

    # path: of the database; host, port: to listen at; beyond: true to serve beyond this machine; check: Store::Check
    # that has begun. Raises Beyond where that was not said, Store::Unusable where the database cannot be used or is in
    # use.
    def initialize(path, host: "127.0.0.1", port: 9292, beyond: false, check: nil)
      @path = path
      @check = check
      @host = host
      @port = Server.port(port)
      raise Beyond, refusal unless local? || beyond

      @lock = Store::Lock.take(path, "the server at #{address} (process #{Process.pid})")
    end

    # given: text or Integer. Returns a port, 0 for any free one. Raises Gadwall::InputError.
    def self.port(given)
      number = Integer(given.to_s, 10, exception: false)
      return number if number&.between?(0, 65_535)

      raise Gadwall::InputError.new(field: "PORT", given: given, expected: "a number from 1 to 65535, such as 9292")
    end

    def address
      "http://#{@host.include?(":") ? "[#{@host}]" : @host}:#{@port}"
    end

    # Is it reached from this machine only?
    def local?
      LOOPBACK.include?(@host)
    end

    # Names and addresses that requests may give for this server.
    def names
      return [@host] unless EVERY_ADDRESS.include?(@host)

      [Socket.gethostname] + Socket.ip_address_list.map { |each| each.ip_address.sub(/%.*/, "") }
    end

    # The Web::Workshop that is served. Raises Store::Unusable.
    def workshop
      application.workshop
    end

    # The Web::Workshop of the practice bay. Raises Store::Unusable.
    def practice
      application.practice
    end

    # A workshop of its own, empty until its first page was filled in, with a copy of it each day. copies: a folder.
    def begin_empty(copies:)
      application.set :first_start, true
      clock = -> { workshop.now }
      workshop.daily_copy = DailyCopy.new(Store::Copies.new(@path, copies), clock: clock).tap(&:keep)
    end

    # Serves until it is stopped. out, err: for what it says.
    def run(out: $stdout, err: $stderr)
      keep_uploads_apart
      workshop.begin_background_work
      warn_beyond(err) unless local?
      Puma::Server.prepend(HeadersOnEveryAnswer)
      quiet = Puma::LogWriter.new(File.open(File::NULL, "w"), err)
      launcher = Puma::Launcher.new(settings, log_writer: quiet)
      launcher.events.on_booted do
        out.puts "Gadwall is at #{address} (Ctrl-C stops it)"
        out.flush
      end
      launcher.run
    ensure
      @lock.release
    end

    private

    # Files on their way in lie in a folder of our own, which is emptied at each start: whatever a kill left is gone.
    def keep_uploads_apart
      folder = "#{@path}-uploads"
      FileUtils.rm_rf(folder)
      FileUtils.mkdir_p(folder, mode: 0o700)
      ENV["TMPDIR"] = File.expand_path(folder)
    end

    def application
      @application ||= App.for_database(@path, hosts: names, check: @check)
    end

    def refusal
      "HOST #{@host} serves everybody who reaches this machine, and nobody signs in yet. Start with " \
        "--beyond-this-machine if that is meant."
    end

    def warn_beyond(err)
      err.puts "Everybody who reaches #{@host} can read and write every job: nobody signs in yet. " \
                 "Only in a network that is yours."
    end

    def settings
      app = application
      Puma::Configuration.new do |config|
        config.environment "production"
        config.threads(*THREADS)
        config.max_fast_inline 1 # turns for all: none answers one browser ten times while another waits
        config.bind address.sub("http", "tcp")
        config.app app
        config.quiet
        config.http_content_length_limit MOST_BYTES
        config.first_data_timeout SLOW_CLIENT_S
        config.lowlevel_error_handler do |_error, _env, status|
          [status, { "content-type" => "text/plain" }, ["This is no request that a browser would send."]]
        end
      end
    end
  end
end
