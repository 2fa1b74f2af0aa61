# frozen_string_literal: true

require "socket"
require_relative "client"

# bin/demo as a process of its own, on a port that is free.
class ServerProcess
  attr_reader :port, :pid

  # path: of the database. Yields the running process; ends it.
  def self.run(path)
    process = new(path)
    yield process
  ensure
    process&.stop
  end

  def initialize(path)
    @port = TCPServer.open("127.0.0.1", 0) { |server| server.addr[1] }
    environment = { "GADWALL_DB" => path, "PORT" => @port.to_s, "HOST" => "127.0.0.1" }
    clean = { "RUBYOPT" => nil, "RUBYLIB" => nil, "BUNDLE_WITHOUT" => nil, "BUNDLE_GEMFILE" => nil }
    @log = "#{path}.log"
    from = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    demo = File.expand_path("../bin/demo", __dir__)
    @pid = Process.spawn(clean.merge(environment), demo, out: @log, err: @log)
    @start_s = first_page - from
  end

  # Seconds from the start to the end of the first page.
  attr_reader :start_s

  # Megabytes of memory that it holds now.
  def memory_mb
    File.read("/proc/#{server_pid}/status")[/VmRSS:\s+(\d+)/, 1].to_i / 1024
  end

  def client
    Client.new(port)
  end

  def stop
    Process.kill("TERM", server_pid)
    Process.wait(@pid)
  rescue Errno::ESRCH, Errno::ECHILD
    nil
  end

  private

  # bin/demo may replace itself, never fork, so it is the server.
  def server_pid
    @pid
  end

  def first_page
    600.times do
      return Process.clock_gettime(Process::CLOCK_MONOTONIC) if client.get("/").status == 200
    rescue SystemCallError, EOFError
      sleep 0.05
      raise "bin/demo ended: #{File.read(@log)}" if Process.wait(@pid, Process::WNOHANG)
    end
    raise "bin/demo gave no page: #{File.read(@log)}"
  end
end
