# frozen_string_literal: true

require "web_helper"
require "open3"
require "socket"
require "timeout"
require "net/http"

# bin/demo as a process: whom it serves, what it refuses to start with, and what the server answers by itself.
RSpec.describe Web::Server do
  demo = File.expand_path("../../bin/demo", __dir__)
  CLEAN = { "RUBYOPT" => nil, "RUBYLIB" => nil, "BUNDLE_GEMFILE" => nil, "BUNDLE_WITHOUT" => "" }.freeze

  around { |example| Dir.mktmpdir { |folder| @folder = folder and example.run } }

  let(:path) { File.join(@folder, "gadwall.sqlite3") }
  let(:port) { TCPServer.open("127.0.0.1", 0) { |server| server.addr[1] } }

  define_method(:start) do |*options, **environment|
    known = { "GADWALL_DB" => path, "PORT" => port.to_s, "HOST" => "127.0.0.1" }
    given = CLEAN.merge(known, environment.transform_keys(&:to_s))
    Timeout.timeout(60) { Open3.capture2e(given, demo, *options) }
  end

  # Serves the demo while the block runs.
  define_method(:served) do |&block|
    given = CLEAN.merge("GADWALL_DB" => path, "PORT" => port.to_s, "HOST" => "127.0.0.1")
    output = File.join(@folder, "out")
    pid = Process.spawn(given, demo, out: output, err: output)
    Timeout.timeout(60) { sleep 0.1 until File.read(output).include?("Gadwall is at") }
    block.call(pid)
  ensure
    Process.kill("TERM", pid)
    Process.wait(pid)
  end

  # Sends bytes as they are. Returns the answer whole.
  def say(bytes)
    socket = TCPSocket.new("127.0.0.1", port)
    socket.write(bytes)
    Timeout.timeout(30) { socket.read }
  rescue Errno::ECONNRESET, Errno::EPIPE
    "" # closed on us: no answer, and no harm
  ensure
    socket&.close
  end

  it "lets nobody delete or serve the database beside it, and answers what is no request with its headers" do
    served do |pid|
      said, status = start("--reset")
      expect(said).to match(/in use by the server at .* \(process #{pid}\)\. Stop that first/)
      expect([status.exitstatus, said.lines.size]).to eq([1, 1])
      said, status = start
      expect([said.lines.size, status.success?]).to eq([1, false])
      expect(Net::HTTP.get_response(URI("http://127.0.0.1:#{port}/jobs/J103/trace")).code).to eq("200")

      head = "GET / HTTP/1.1\r\nHost: 127.0.0.1:#{port}\r\nConnection: close\r\n"
      wrong = [
        "GET / HTTP/1.1\r\nHost: evil.test\r\nConnection: close\r\n\r\n",
        "#{head}Origin: http://evil.test\r\n\r\n",
        "NONSENSE\r\n\r\n",
        "GET /%00 HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: close\r\n\r\n",
        "#{head}X-Long: #{"x" * 100_000}\r\n\r\n",
        "POST /jobs/J103/notes HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: close\r\nContent-Length: 200000000\r\n\r\n",
        "POST /jobs/J103/notes HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: close\r\nContent-Length: -5\r\n\r\n"
      ]
      # all at once: the server waits for a body that never comes
      answers = wrong.map { |bytes| Thread.new { [bytes, say(bytes)] } }.map(&:value)
      answers
        .reject { |_, answer| answer.empty? }
        .each do |bytes, answer|
          expect(answer[%r{\AHTTP/1\.\d (\d+)}, 1].to_i).to be_between(200, 499), bytes[0, 60]
          expect(answer.downcase).to include("content-security-policy"), bytes[0, 60]
        end
    end
    said, status = start("--reset", HOST: "0.0.0.0")
    expect([status.exitstatus, said]).to match([2, /--beyond-this-machine/])
    said, status = start("--turbo")
    expect([status.exitstatus, said]).to match([2, /usage/])
  end

  it "says in one sentence what is wrong with a database, and what to do" do
    File.binwrite(path, "no database " * 1000)
    said, status = start
    expect([status.exitstatus, said]).to match([1, /\A\S+ is damaged or no SQLite database\. Put back a copy.*\n\z/])
    expect(said.lines.size).to eq(1)
    said, status = start(GADWALL_DB: "/proc/nothing/x.sqlite3")
    expect([status.exitstatus, said.lines.size]).to eq([1, 1]), said
  end
end
