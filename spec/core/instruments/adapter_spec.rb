# frozen_string_literal: true

require "spec_helper"
require "json"
require "stringio"
require "tmpdir"

# A tool on a bus that it knows nothing of: over the stream of `simulate --listen`, and over SocketCAN where the kernel
# has a virtual bus.
RSpec.describe Gadwall::Instruments::Adapter do
  # A server of `bin/gadwall simulate --listen` in a thread of its own.
  def served(*more)
    Dir.mktmpdir do |folder|
      sheet = File.join(folder, "vehicle.json")
      File.write(sheet, JSON.generate("name" => "Kestrel", "stability" => "yes"))
      out, told = IO.pipe
      runner =
        Gadwall::CLI::Runner.new(out: told, err: $stderr, clock: -> { Process.clock_gettime(Process::CLOCK_REALTIME) })
      place = more.include?("0") ? "0" : File.join(folder, "bus.sock")
      thread =
        Thread.new do
          runner.run(["simulate", sheet, "--fault", "front_left.sensor.open", "--listen", place, *more - ["0"]])
        end
      yield out.gets[/listening on (?:127\.0\.0\.1:)?(.*)/, 1]
    ensure
      thread&.kill&.join
      [out, told].compact.each(&:close)
    end
  end

  it "scans every module over the stream of lines, and finds the code; the next client finds the vehicle as it came" do
    served do |place|
      2.times do
        adapter = described_class.new(Gadwall::Instruments::LinePort.new(place)).open
        interface = Gadwall::Instruments::DiagnosticInterface.new(adapter)
        read, broken = interface.scan
        expect([broken, read.size]).to eq([nil, interface.modules.size])
        expect(read.flat_map { |each| each.codes.map { |word, _| word.to_s } }).to include("C0031-13")
        expect(read.map { |each| each.identifiers["vin"].size }.uniq).to eq([17])
        interface.clear(0x700)
        adapter.close
      end
    end
  end

  it "is asked by 29 bits as well, keeps a session alive, and keeps its log short" do
    served("0") do |port|
      adapter = described_class.new(Gadwall::Instruments::LinePort.new(port)).open
      expect(adapter.exchange(0x18DA70F1, [0x22, 0xF1, 0x90]).map { |id, data| [id, data.size] }).to eq(
        [[0x18DAF170, 20]]
      )
      expect(adapter.exchange(0x18DB33F1, [0x3E, 0x00]).size).to be > 5
      adapter.exchange(0x700, [0x10, 0x03])
      4.times { [adapter.tester_present, adapter.unasked(2.0)] }
      expect(adapter.exchange(0x700, [0x22, 0xF1, 0x86]).last.last).to eq([0x62, 0xF1, 0x86, 0x03])
      stub_const("Gadwall::Instruments::Adapter::KEPT", 10)
      adapter.exchange(0x700, [0x22, 0xF1, 0x90])
      expect(adapter.log.size).to eq(10)
      adapter.close
    end
  end

  it "is sent frames as they come where the clock is the machine's" do
    served("--real-time") do |place|
      socket = UNIXSocket.new(place)
      socket.puts("(1.0) can0 700#023E00")
      expect(socket.wait_readable(5)).not_to be_nil
      expect(socket.gets).to match(/\A\(\d{10}\.\d{6}\) can0 708#027E00/)
      socket.close
    end
  end

  it "says what is wrong with a place to listen at, and with one where nobody listens" do
    err = StringIO.new
    sheet = StringIO.new('{"name": "Kestrel"}')
    runner = Gadwall::CLI::Runner.new(out: StringIO.new, err: err, input: sheet)
    expect(runner.run(%w[simulate - --listen /no/such/folder/bus])).to eq(1)
    expect(err.string).to match(/--listen.*path for a socket/)
    nobody = described_class.new(Gadwall::Instruments::LinePort.new("/no/such/bus"))
    expect { nobody.open }.to raise_error(Gadwall::Instruments::DiagnosticInterface::Lost, /Nothing listens/)
    expect(runner.run(%w[simulate - --listen 0 --session scan])).to eq(2)
  end

  describe Gadwall::Instruments::SocketCan do
    frame = ->(**of) do
      given = { time_s: 1.0, bus: "can0", id: 0x7E8, extended: false, fd: false, data: [1, 2, 3], **of }
      Gadwall::Protocols::Frame.new(**given).freeze
    end

    # linux/can.h: struct can_frame, struct canfd_frame, struct sockaddr_can.
    it "packs frames as the kernel has them, and reads them back" do
      expect(described_class.packed(frame[]).unpack1("H*")).to eq("e807000003000000#{"010203".ljust(16, "0")}")
      long = frame[id: 0x18DAF110, extended: true, fd: true, data: (0...12).to_a]
      expect(described_class.packed(long).bytesize).to eq(72)
      [frame[], frame[id: 0x18DAF110, extended: true], long, frame[data: []]].each do |each|
        expect(described_class.unpacked(described_class.packed(each), 1.0, "can0")).to eq(each)
      end
      expect(described_class.address(3).unpack1("H*")).to eq("1d00000003000000#{"00" * 16}")
    end

    it "passes over remote frames, error frames, and what is no frame" do
      remote = [0x40000700, 0, ""].pack("LCx3a8")
      error = [0x20000004, 8, ""].pack("LCx3a8")
      expect([remote, error, "short"].map { |bytes| described_class.unpacked(bytes, 0.0, "can0") }).to eq(
        [nil, nil, nil]
      )
    end

    it "says that there is no such interface" do
      port = described_class.new("can9", clock: -> { 0.0 })
      expect { port.open }.to raise_error(Gadwall::Instruments::DiagnosticInterface::Lost, /can9 cannot be used/)
    end

    it "scans over a virtual bus of the kernel" do
      bus = described_class.interfaces.find { |name| name.start_with?("vcan") }
      skip "the kernel has no virtual CAN bus here" unless bus
      clock = -> { Process.clock_gettime(Process::CLOCK_MONOTONIC) }
      vehicle =
        Gadwall::Simulator::VehicleUnderTest.new({ "name" => "Kestrel" }, faults: ["front_left.sensor.open"]).drive
      serving = Thread.new { serve_on(bus, vehicle, clock) }
      adapter = Gadwall::Instruments::Adapter.new(described_class.new(bus, clock: clock)).open
      read, = Gadwall::Instruments::DiagnosticInterface.new(adapter).scan([0x700])
      expect(read.flat_map { |each| each.codes.map { |word, _| word.to_s } }).to include("C0031-13")
    ensure
      serving&.kill
      adapter&.close
    end

    def serve_on(bus, vehicle, clock)
      port = described_class.new(bus, clock: clock)
      port.open
      simulated = Gadwall::Simulator::Bus.new(vehicle, start: clock.call)
      loop do
        port.read(0.005).each { |each| simulated.take(each) }
        simulated.advance(clock.call)
        simulated.sent.each { |each| port.write(each) if each.bus == "can0" }
      end
    end
  end
end
