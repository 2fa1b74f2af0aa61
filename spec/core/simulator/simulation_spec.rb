# frozen_string_literal: true

require "spec_helper"
require "socket"

# The simulated vehicle to plug into: wiring, modules in time, the diagnostic protocol, instruments. What standards say
# stands beside the check (ISO 14229-1, ISO 15765-2, SAE J1939-73, from memory).
RSpec.describe Gadwall::Simulator do
  sheets = {
    "car" => {
      "stability" => "yes",
      "park_brake" => "caliper_motor"
    },
    "hybrid" => {
      "power" => "hybrid",
      "booster" => "electric_pump",
      "park_brake" => "cable_puller",
      "single_wire" => "yes"
    },
    "lorry" => {
      "booster" => "air",
      "towing" => "trailer"
    },
    "pick-up" => {
      "sensors" => "passive",
      "brake_switch" => "two",
      "towing" => "trailer_brake_module"
    }
  }

  def vehicle(sheet, *faults, seed: 1)
    Gadwall::Simulator::VehicleUnderTest.new({ "name" => "sim" }.merge(sheet), faults: faults, seed: seed)
  end

  def codes(vehicle)
    vehicle.ecus.flat_map { |ecu| ecu.codes.map { |dtc| "#{ecu.id} #{dtc.word}" } }
  end

  # A module gives up at the same volts here and in the diagnosis: 9 V of 12, 18 V of 24 (common practice).
  {
    "12" => {
      "1.2" => true,
      "2" => true,
      "4" => true,
      "6" => false,
      "12" => false,
      "40" => false
    },
    "24" => {
      "4" => true,
      "10" => true,
      "16" => true,
      "22" => false,
      "30" => false,
      "100" => false
    }
  }.each do |volts, ohms|
    it "takes a #{volts} V module's power at the volts that the diagnosis takes it" do
      ohms.each do |ohm, powered|
        fault = "abs_module.supply_plug.feed.high_resistance@#{ohm}"
        car = vehicle({ "system_voltage" => volts }, fault)
        supply = car.system.circuit_named("abs_module")
        car.set(key: "on")
        rule = supply.harness.template["powers"]
        read = car.wiring.measure("volts", "abs_module", rule["probes"], car.state)
        expect([ohm, read >= supply.model.least_power_volt, !car.silent?("abs")]).to eq([ohm, powered, powered])
      end
    end
  end

  it "plugs into a vehicle from the command line: faults, session and log as they were asked for" do
    Dir.mktmpdir do |folder|
      sheet = File.join(folder, "sheet.json")
      log = File.join(folder, "bus.log")
      File.write(sheet, JSON.generate({ "name" => "sim" }.merge(sheets.fetch("car"))))
      out = StringIO.new
      hidden = %w[front_left.sensor.open rear_left.sensor.open].flat_map { |id| ["--fault", id] }
      asked = ["simulate", sheet, *hidden, "--seed", "2", "--session", "scan", "--log", log]
      expect(Gadwall::CLI::Runner.new(out: out, err: StringIO.new).run(asked)).to eq(0)
      abs = JSON.parse(out.string)["modules"].find { |row| row["request_id"] == "700" }
      expect(abs["codes"].map { |row| row["code"] }.uniq).to eq(%w[C0031 C0037])
      expect(File.readlines(log)).not_to be_empty
    end
  end

  sheets.each do |name, sheet|
    it "sets no code in a sound #{name}, whatever the day's values" do
      (name == "car" ? [1, 7] : [3]).each do |seed|
        sound = vehicle(sheet, seed: seed).drive
        expect([seed, codes(sound), sound.ecus - sound.speaking]).to eq([seed, [], []])
      end
    end
  end

  # {fault => [a code that must stand, modules that fall silent]}
  {
    "front_left.sensor.open" => ["abs C0031-13", []],
    "rear_right.ring.missing" => ["abs C003A-31", []],
    "park_brake_left.motor.open" => [/epb C1\h{3}-13/, []],
    "abs_module.module.dead" => ["cluster U0121-87", %w[abs]],
    "chassis_bus.wire_can_h.sill_connector_to_abs_plug.open" => ["cluster U0121-87", %w[abs]],
    "abs_module.fuse_box.feed.blown" => ["cluster U0121-87", %w[abs]]
  }.each do |fault, (code, silent)|
    it "shows what #{fault} drags along" do
      car = vehicle(sheets["car"], fault).drive
      expect(codes(car)).to include(a_string_matching(code))
      expect((car.ecus - car.speaking).map(&:id)).to eq(silent)
    end
  end

  it "tells of a trailer by the trailer's own lamp (UN R13 5.2.1.29, from memory), and with no other module's code" do
    car = vehicle(sheets["lorry"], "trailer_modulator.fuse_box.feed.blown").drive
    expect(car.lamps).to eq(%w[trailer])
    expect(codes(car)).to contain_exactly(a_string_matching(/\Atruck U1\h{3}-87\z/))
  end

  it "measures what the wiring shows between any two probes, by the faults that are hidden" do
    sound = vehicle(sheets["pick-up"])
    broken = vehicle(sheets["pick-up"], "front_left.sensor.open")
    probes = %w[signal@far_end return@far_end]
    apart = { "front_left" => ["sensor_plug"] }
    values =
      [sound, broken].map { |car| car.set(disconnected: apart).wiring.measure("ohms", "front_left", probes, car.state) }
    expect(values.first).to be_between(700, 2200) # passive sensors of 0.7 to 2.2 kohm (evidence, from memory)
    expect(values.last).to be > 1e4
  end

  # ISO 11898-2, from memory: 2.8 and 2.2 V by DC meter on a busy bus; a terminated pair drags its neighbour along.
  {
    [] => [2.7..2.9, 2.1..2.3],
    ["chassis_bus.wire_can_h.gateway_plug_to_cluster_splice.short_to_ground@2"] => [0.0..1.0, 0.0..1.0],
    ["chassis_bus.wire_can_l.gateway_plug_to_cluster_splice.short_to_supply@2"] => [7.0..13.0, 9.0..13.0],
    ["chassis_bus.gateway_plug_to_cluster_splice.short_together"] => [2.4..2.7, 2.3..2.6]
  }.each do |faults, (high, low)|
    it "has the levels of a pair with #{faults.first || "nothing wrong"}" do
      car = vehicle(sheets["car"], *faults).set(key: "on")
      volts =
        %w[can_h can_l].map do |wire|
          car.wiring.measure("volts", "chassis_bus", ["#{wire}@abs_plug.near", "ground"], car.state)
        end
      expect([high.cover?(volts[0]), low.cover?(volts[1])]).to eq([true, true]), volts.inspect
    end
  end

  it "runs the battery down with the key on, and holds it with a support unit" do
    state = described_class::VehicleState.new.with(key: "on")
    volts = [0, 3600, 4 * 3600].map { |seconds| state.after(seconds).battery_volt }
    expect(volts).to eq(volts.sort.reverse)
    expect(state.with(support: true).after(36_000).battery_volt).to eq(13.6)
  end

  # ISO 14229-1 Annex D: bits of the status byte through clearing, failing, passing, cycles and ageing.
  it "sets status bits as ISO 14229-1 has them" do
    dtc = described_class::Dtc.new(Gadwall::TroubleCodes::CodeWord.parse("C0031-13"))
    expect(format("%02X", dtc.status)).to eq("50")
    dtc.ran(false)
    expect(format("%02X", dtc.status)).to eq("00")
    dtc.ran(true)
    expect(format("%02X", dtc.status)).to eq("AF")
    dtc.ran(false)
    expect([dtc.bit?(0x01), dtc.bit?(0x08), dtc.bit?(0x04)]).to eq([false, true, true])
    dtc.new_cycle
    expect([dtc.bit?(0x40), dtc.bit?(0x02)]).to eq([true, false])
    dtc.ran(false)
    dtc.new_cycle
    expect(dtc.bit?(0x04)).to be(false)
    described_class::Dtc::AGES_AFTER.times { [dtc.ran(false), dtc.new_cycle] }
    expect(dtc.bit?(0x08)).to be(false)
  end

  describe "the protocol" do
    let(:car) { vehicle(sheets["car"], "front_left.sensor.open").drive }
    let(:abs) { described_class::Uds::Server.new(car, car.ecu("abs")) }

    def bytes(text)
      [text.delete(" ")].pack("H*").bytes
    end

    def answer(text, **more)
      abs.answer(bytes(text), **more).map { |reply| reply.pack("C*").unpack1("H*").upcase }
    end

    # Negative responses of ISO 14229-1 Annex A: request => answer.
    {
      "99" => "7F9911", # service not supported
      "10 7F" => "7F1012", # sub-function not supported
      "10" => "7F1013", # incorrect message length
      "27 01" => "7F277F", # not in the default session
      "31 01 03 01" => "7F317F",
      "22 FF FF" => "7F2231", # request out of range
      "22 F1" => "7F2213",
      "14 00 00 00" => "7F1431",
      "19 55 FF" => "7F1912",
      "3E 01" => "7F3E12"
    }.each do |request, refusal|
      it "refuses #{request} with #{refusal}" do
        expect(answer(request)).to eq([refusal])
      end
    end

    it "says nothing to all that it does not support, and nothing where no answer is wanted" do
      expect(answer("99", functional: true)).to eq([])
      expect(answer("3E 80")).to eq([])
      expect(answer("3E 00")).to eq(%w[7E00])
    end

    it "reads codes by mask, how many, what is supported, and the snapshot" do
      expect(answer("19 02 08").first).to match(/\A5902FF.*403113AF/)
      expect(answer("19 01 08").first).to match(/\A5901FF01000[1-9]\z/)
      expect(answer("19 02 00").first).to eq("5902FF")
      expect(answer("19 0A").first).to include("403113")
      expect(answer("19 04 40 31 13 01").first).to match(/\A590440311 3AF0102/x)
    end

    it "opens the extended session, which falls back when nobody keeps it up (S3)" do
      expect(answer("10 03")).to eq(%w[5003003201F4])
      expect(answer("27 01").first).to start_with("6701")
      car.wait(6)
      expect(answer("27 01")).to eq(%w[7F277F])
    end

    it "writes only behind security: sequence, key, then the data, which reads back" do
      answer("10 03")
      expect(answer("27 02 00 00")).to eq(%w[7F2724]) # request sequence error
      expect(answer("2E 01 00 0A 0B 0C 0D")).to eq(%w[7F2E33]) # security access denied
      seed = answer("27 01").first[4, 4].to_i(16)
      expect(answer("27 02 FF FF")).to eq(%w[7F2735]) # invalid key
      expect(answer(format("27 02 %04X", seed ^ described_class::Uds::KEY_MASK))).to eq(%w[7F2724]) # it cost the seed
      seed = answer("27 01").first[4, 4].to_i(16)
      expect(answer(format("27 02 %04X", seed ^ described_class::Uds::KEY_MASK))).to eq(%w[6702])
      expect(answer("2E 01 00 0A")).to eq(%w[7F2E13])
      expect(answer("2E 01 00 0A 0B 0C 0D")).to eq(%w[6E0100])
      expect(answer("22 01 00")).to eq(%w[6201000A0B0C0D])
    end

    it "runs a routine where its conditions hold, with 'response pending' before a long one" do
      answer("10 03")
      expect(answer("31 03 03 20")).to eq(%w[7F3124])
      car.set(steering_deg: 40.0)
      answer("10 03")
      expect(answer("31 01 03 20").last).to eq("7F3122") # conditions not correct
      car.set(steering_deg: 0.0)
      answer("10 03")
      expect(answer("31 01 03 20")).to eq(%w[7F3178 7101032000])
      expect(answer("31 03 03 20")).to eq(%w[7103032000])
    end

    it "refuses to clear while it rolls, and clears standing" do
      car.set(key: "ready", speed_km_h: 20.0)
      expect(answer("14 FF FF FF")).to eq(%w[7F1422])
      car.set(speed_km_h: 0.0)
      expect(answer("14 FF FF FF")).to eq(%w[54])
      expect(answer("19 02 08").first).to eq("5902FF")
    end

    # ISO 15765-2: single frames up to 7 bytes, then a first frame of 6 and consecutive frames of 7, numbered from 1.
    [1, 7, 8, 13, 14, 130].each do |size|
      it "cuts #{size} bytes into frames that our decoder puts together again" do
        message = Array.new(size) { |i| i & 0xFF }
        frames = Gadwall::Protocols::IsoTp.frames(message)
        expect(frames.size).to eq(size < 8 ? 1 : 1 + ((size - 6) / 7.0).ceil)
        expect(frames.map(&:size).uniq).to eq([8])
        transport = Gadwall::Protocols::Transport.new
        lines =
          frames.each_with_index.map do |data, i|
            format("(%.6f) can0 708#%s", i * 0.001, data.map { |byte| format("%02X", byte) }.join)
          end
        back = Gadwall::Protocols::LogReader.each(lines).flat_map { |frame| transport.take(frame) }
        expect(back.map(&:data)).to eq([message])
      end
    end
  end

  describe "a session" do
    let(:car) { vehicle(sheets["car"], "front_left.sensor.open", "park_brake_left.motor.open").drive }
    let(:link) { described_class::Link.new(car) }
    let(:interface) { Gadwall::Instruments::DiagnosticInterface.new(link) }

    it "is read back from its traffic by our own decoder" do
      read, broken = interface.scan
      expect([read.size, broken]).to eq([car.ecus.size, nil])
      decoded = Gadwall::CLI::ScanFile.of_text(link.to_s).to_h
      theirs =
        decoded[:modules].to_h do |row|
          [row[:request_id].to_i(16), row[:codes].map { |code| [code[:code], code[:status_byte]] }]
        end
      ours =
        read.to_h do |each|
          [each.request_id, each.codes.map { |word, status| [word.text, format("%02X", status.value)] }]
        end
      expect(theirs).to eq(ours)
      expect(decoded[:modules].map { |row| row[:name] }).to include("ABS", "EPB", "engine")
    end

    it "is decoded by tshark without an error" do
      skip "tshark is not installed" unless Outside.tshark?
      interface.scan
      interface.routine(0x720, 0x0320)
      interface.write(0x700, 0x0100, [1, 2, 3, 4]) { |seed| seed ^ described_class::Uds::KEY_MASK }
      interface.clear(0x700)
      rows =
        Outside.tshark(
          link.to_s,
          { "can.subdissector" => "iso15765", "iso15765.subdissector" => "uds" },
          %w[uds.sid _ws.malformed _ws.expert.severity]
        )
      expect(rows.map { |row| row[1] }.reject(&:empty?)).to eq([])
      services = rows.map(&:first).reject(&:empty?).map { |text| Integer(text) & 0xBF }.uniq
      expect(services).to include(0x22, 0x19, 0x14, 0x31, 0x27, 0x2E)
    end

    it "keeps what was read when the connection is lost in the middle" do
      tries = 0
      link.define_singleton_method(:exchange) do |id, data|
        raise Gadwall::Instruments::DiagnosticInterface::Lost, "The interface is gone." if (tries += 1) > 20

        super(id, data)
      end
      read, broken = interface.scan
      expect([read.size.between?(1, car.ecus.size - 1), broken]).to eq([true, "The interface is gone."])
    end

    it "is replayed from its log, request by request" do
      first, = interface.scan
      replay = Gadwall::Instruments::DiagnosticInterface.new(Gadwall::Instruments::ReplayLink.new(link.to_s))
      ids = first.map(&:request_id)
      expect(replay.scan(ids).first.map { |each| each.codes.map { |word, _| word.to_s } }).to eq(
        first.map { |each| each.codes.map { |word, _| word.to_s } }
      )
      expect { replay.clear(0x700) }.to raise_error(Gadwall::Instruments::DiagnosticInterface::Lost)
    end

    # How a real adapter is added (docs/instruments.md): one object that answers `exchange`, here over a local socket.
    it "works over an adapter that talks through a socket" do
      server = TCPServer.new("127.0.0.1", 0)
      thread =
        Thread.new do
          client = server.accept
          while (line = client.gets)
            id, hex = line.split
            replies = link.exchange(id.to_i(16), [hex].pack("H*").bytes)
            client.puts(replies.map { |from, data| "#{from.to_s(16)} #{data.pack("C*").unpack1("H*")}" }.join(";"))
          end
        end
      socket = TCPSocket.new("127.0.0.1", server.addr[1])
      adapter = Object.new
      adapter.define_singleton_method(:exchange) do |id, data|
        socket.puts "#{id.to_s(16)} #{data.pack("C*").unpack1("H*")}"
        socket.gets.chomp.split(";").map { |each| [each.split[0].to_i(16), [each.split[1]].pack("H*").bytes] }
      end
      read, = Gadwall::Instruments::DiagnosticInterface.new(adapter).scan([0x700, 0x710])
      expect(read.flat_map { |each| each.codes.map { |word, _| word.to_s } }).to include("C0031-13")
    ensure
      [socket, server].compact.each(&:close)
      thread&.kill
    end
  end

  describe "a meter" do
    it "reads nonsense in ohms on a live circuit, and blows its fuse in amperes across a supply" do
      car = vehicle(sheets["car"]).set(key: "on")
      meter = Gadwall::Instruments::Meter.new(car)
      across = %w[feed@far_end ground_wire@far_end]
      expect(meter.read("volts", "abs_module", across).value).to be_between(11, 13)
      expect(meter.read("ohms", "abs_module", across).warning).to include("live circuit")
      probes = %w[signal@far_end return@far_end]
      off =
        Gadwall::Instruments::Meter.new(
          vehicle(sheets["car"]).set(disconnected: { "fluid_level" => ["reservoir_plug"] })
        )
      expect(off.read("ohms", "fluid_level", probes).warning).to be_nil
    end
  end

  # SAE J1939-73: lamps, then four bytes a code; more than one goes by the broadcast of SAE J1939-21.
  it "broadcasts active codes of heavy vehicles that our decoder reads" do
    [[[789, 5, 1]], [[789, 5, 1], [790, 2, 3], [1067, 12, 1]]].each do |codes|
      frames = described_class::Heavy::Messages.codes(0xFECA, 0xC8, codes)
      heavy = Gadwall::Protocols::Heavy.new
      lines =
        frames.map do |after, id, data|
          format("(%.6f) can1 %08X#%s", after, id, data.map { |byte| format("%02X", byte) }.join)
        end
      Gadwall::Protocols::LogReader.each(lines) { |frame| heavy.take(frame) }
      expect(heavy.codes.map { |code| [code.source, code.spn, code.fmi, code.count] }).to eq(
        codes.map { |code| [0xC8, *code] }
      )
    end
  end

  it "answers the command line: scan, live, routine, write, and says what is wrong" do
    text = JSON.generate({ "name" => "cli", "park_brake" => "caliper_motor" })
    session = Gadwall::CLI::SimulateFile.new(text, faults: ["front_left.sensor.open"], seed: 3)
    expect(session.run("scan")[:modules].flat_map { |row| row[:codes] }.map { |code| code[:code] }).to include("C0031")
    expect(session.run("live")[:live]).to include(
      a_hash_including(id: "wheel_front_left", value: 0.0),
      a_hash_including(id: "wheel_rear_left", value: a_value_within(0.5).of(30.0))
    )
    expect(session.run("routine:pad_wear_reset")[:modules].first).to include(:done)
    expect(session.run("write:0100=0A0B0C0D")[:modules]).to include(a_hash_including(module: "ABS"))
    expect { session.run("write:zz") }.to raise_error(Gadwall::InputError, /DID=HEX/)
    expect { session.run("routine:dance") }.to raise_error(Gadwall::UnknownNameError)
    expect { Gadwall::CLI::SimulateFile.new(text, faults: ["front_left.sensor.opn"]) }.to raise_error(
      Gadwall::UnknownNameError
    )
    expect { Gadwall::CLI::SimulateFile.new("[", faults: []) }.to raise_error(Gadwall::InputError, /JSON/)
  end
end
