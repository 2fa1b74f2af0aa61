# frozen_string_literal: true

require "spec_helper"

# The simulated vehicle by frames, as any client of frames meets it (docs/formats/bus.md). Clauses of the standards
# stand beside the checks, from memory.
RSpec.describe Gadwall::Simulator::Listener do
  let(:sheet) { { "name" => "Kestrel", "stability" => "yes", "park_brake" => "caliper_motor" } }
  let(:faults) { ["front_left.sensor.open"] }
  let(:vehicle) { Gadwall::Simulator::VehicleUnderTest.new(sheet, faults: faults, seed: 1).set(key: "on") }
  let(:listener) { described_class.new(vehicle) }
  let(:clock) { [100.0] }

  # Sends a frame now and gives [[seconds since, id, data], ...] of what came within some seconds.
  def ask(frame, within: 0.2, bus: "can0")
    at = clock[0]
    said = listener.take(format("(%.6f) %s %s", at, bus, frame))
    expect(said).to eq([])
    came(within).map { |seconds, id, data| [(seconds - at).round(4), id, data] }
  end

  def came(within)
    clock[0] += within
    *frames, now = listener.take("# until #{clock[0]}")
    expect(now).to eq(format("# now %.6f", clock[0]))
    frames.map do |line|
      line.match(/\A\((.*?)\) \S+ (\h+)##?(?:1(?=\h{16,}))?(\h+)\z/).captures.then { |s, id, data| [s.to_f, id, data] }
    end
  end

  def data(...)
    ask(...).map(&:last)
  end

  describe "ISO 15765-2" do
    # 6.5.5.4: block size counts the frames until the next flow control.
    it "sends a block and waits for the next flow control" do
      expect(data("700#0322F190")).to eq(["101462F1905A5A39"])
      expect(data("700#300100", within: 0.05).size).to eq(1)
      expect(data("700#300100", within: 0.05).map { |text| text[0, 2] }).to eq(["22"])
    end

    # 6.5.5.5: the least time between frames, milliseconds or hundreds of microseconds.
    { "0A" => 0.010, "F5" => 0.0005, "7F" => 0.127, "80" => 0.127 }.each do |byte, seconds|
      it "keeps a separation of #{byte}" do
        ask("700#0322F190")
        times = ask("700#3000#{byte}", within: 0.4).map(&:first)
        expect(times.each_cons(2).map { |a, b| (b - a).round(4) }).to all(be_within(0.0003).of(seconds))
      end
    end

    # 6.5.5.3: 'wait' restarts N_Bs, 'overflow' and a reserved status end the message.
    it "waits where it is told to, and gives up after overflow, a reserved status, or N_Bs without flow control" do
      ask("700#0322F190")
      expect(data("700#310000", within: 0.9)).to eq([])
      expect(data("700#310000", within: 0.9)).to eq([])
      expect(data("700#300000").size).to eq(2)
      %w[320000 350000].each do |flow|
        ask("700#0322F190")
        ask("700##{flow}")
        expect([flow, data("700#300000")]).to eq([flow, []])
      end
      ask("700#0322F190")
      came(1.1)
      expect(data("700#300000")).to eq([])
    end

    # 6.5.3, 6.5.4: reception by segments, its sequence numbers, and N_Cr.
    it "takes a request in several frames, by their numbers and in time" do
      long = %w[1009220100F190F1 2187F1 2287F1]
      expect(data("700##{long[0]}")).to eq(["300000AAAAAAAAAA"])
      expect(data("700##{long[1]}8700").first).to start_with("10")
      ask("700#320000")
      ask("700##{long[0]}")
      expect(data("700##{long[2]}8700")).to eq([]) # wrong number
      expect(data("700##{long[1]}8700")).to eq([]) # and the message is gone
      ask("700##{long[0]}")
      came(1.2)
      expect(data("700##{long[1]}8700")).to eq([]) # N_Cr
    end

    # 6.5.2: what is no length is passed over; 6.5.1: no segmented message to everybody.
    %w[00 0822F190AABBCCDD 1007220100F190F1 2122F190 7FAABB].each do |frame|
      it "passes over #{frame}" do
        expect(data("700##{frame}")).to eq([])
        expect(data("700#023E00")).to eq(["027E00AAAAAAAAAA"])
      end
    end

    it "gives no flow control to a message to everybody, and none beyond its memory" do
      expect(data("7DF#1009220100F190F1")).to eq([])
      expect(data("700#1000000020002201").first).to start_with("32")
    end
  end

  describe "ISO 15765-4 and ISO 11898-1" do
    it "answers by 29 bits as by 11, and to everybody" do
      expect(ask("18DA70F1#023E00").map { |_, id, _| id }).to eq(%w[18DAF170])
      expect(ask("18DB33F1#023E00").map { |_, id, _| id }).to include("18DAF170", "18DAF110")
    end

    it "answers in frames of flexible data rate" do
      vehicle.drive
      expect(data("700##1031902FF").first).to match(/\A00\h{2}5902FF/)
    end

    it "answers both that ask at one time" do
      listener.take("(100.0) can0 700#023E00")
      expect(ask("7DF#023E00").count { |_, id, _| id == "708" }).to eq(2)
    end
  end

  describe "ISO 14229-1" do
    def open_up
      ask("700#021003")
      ask("700#022701").last.last[6, 4].to_i(16)
    end

    # 7.5.6: whoever was asked with all others keeps quiet of what he does not support.
    { "0199" => [], "023E7F" => [], "0322FFFF" => [], "0222F1" => ["037F2213AAAAAAAA"] }.each do |frame, answer|
      it "says #{answer.empty? ? "nothing" : answer} to everybody's #{frame}" do
        expect(ask("7DF##{frame}").select { |_, id, _| id == "708" }.map(&:last)).to eq(answer)
      end
    end

    # 8.7: length before sub-function, sub-function before exact length, both before what is suppressed.
    {
      "0110" => "7F1013",
      "0119" => "7F1913",
      "013E" => "7F3E13",
      "033E8000" => "7F3E13",
      "021055" => "7F1012",
      "03105500" => "7F1012",
      "021985" => "7F1912",
      "0227FF" => "7F277F"
    }.each do |frame, refusal|
      it "refuses #{frame} by #{refusal}" do
        expect(data("700##{frame}").first).to start_with("03#{refusal}")
      end
    end

    # 10.4: a wrong key costs the seed; the third closes the door for a time (36, then 37), over a reset too.
    it "counts wrong keys over a reset" do
      3.times do |i|
        seed = open_up
        expect(data(format("700#042702%04X", seed ^ 1)).first).to start_with(i < 2 ? "037F2735" : "037F2736")
        expect(data("700#0427020000").first).to start_with("037F2724") if i.zero?
        ask("700#021101")
      end
      ask("700#021003")
      expect(data("700#022701").first).to start_with("037F2737")
      came(10.5)
      seed = open_up
      expect(data(format("700#042702%04X", seed ^ 0x5A3C)).first).to start_with("026702")
    end

    # 9.2: S3 of 5 s; 9.5: 3E keeps the session.
    it "falls back to the default session, unless somebody keeps it" do
      ask("700#021003")
      3.times { [came(3.0), ask("700#023E80")] }
      expect(data("700#0322F186").first).to start_with("0462F18603")
      came(5.5)
      expect(data("700#0322F186").first).to start_with("0462F18601")
    end

    # 9.2: with the session ends what it had changed, whether somebody asks or not.
    it "writes codes again once the session that had stopped it is over" do
      ask("700#021003")
      ask("700#028502")
      expect(vehicle.ecu("abs").setting).to be(false)
      came(6.0)
      expect(vehicle.ecu("abs").setting).to be(true)
    end

    # 11.3: codes; supported ones with their status, snapshots by identifiers that can be read, what else is known.
    it "tells codes, their snapshots and records" do
      vehicle.drive
      listener.take("(100.0) can0 700#02190A")
      all = came(0.2).first.last
      expect(all).to start_with("10")
      expect(all[2, 2].to_i(16)).to be > 20 # every code that it can set
      ask("700#320000")
      expect(data("700#06190440311301").first).to match(/\A10\h{2}5904403113/)
      ask("700#320000")
      expect(data("700#061906403113FF").first).to match(/\A10\h{2}5906403113/)
      ask("700#320000")
      expect(data("700#06190440311305").first).to start_with("037F1931")
      expect(data("700#06190400000001").first).to start_with("037F1931")
    end

    # 9.3, 10.8: 28 and 85 in another session; 'pending' only with the time that follows.
    it "serves 28, 85 and a routine that takes its time" do
      expect(data("700#03280301").first).to start_with("037F287F")
      ask("700#021003")
      expect(data("700#03280301").first).to start_with("026803")
      expect(data("700#028502").first).to start_with("02C502")
      listener.take("! fault front_right.sensor.open")
      came(1.0)
      ask("700#023E00")
      expect(data("700#03190201").join).not_to include("4034")
      times = ask("700#0431010320", within: 1.0)
      expect(times.map { |seconds, _, text| [seconds.round(1), text[0, 8]] }).to eq(
        [[0.0, "037F3178"], [0.5, "05710103"]]
      )
    end

    it "is busy for others while it works" do
      ask("700#021003")
      ask("700#0431010320", within: 0.1)
      expect(data("700#0322F186").first).to start_with("037F2221")
      expect(data("700#023E00", within: 0.1)).to eq([])
    end

    # ISO 3779: seventeen letters and digits, neither I, O nor Q.
    it "has a vehicle identification number that is one" do
      bytes = Gadwall::Simulator::Uds::Data.new(vehicle, vehicle.ecu("abs")).bytes(0xF190)
      expect(Gadwall::Vehicle::VIN.well_formed?(bytes.pack("C*"))).to be(true)
      expect(Gadwall::Vehicle::VIN.check_digit_right?(bytes.pack("C*"))).to be(true)
    end

    it "shows nothing that this vehicle does not have" do
      expect(data("700#03222005").first).to start_with("037F2231") # no sensor for a whole axle
      expect(data("700#03222001").first).to start_with("05622001")
    end
  end

  describe "what changes the vehicle" do
    it "sleeps with the key off, and says nothing until it is on" do
      listener.take("! key off")
      expect(data("700#023E00")).to eq([])
      listener.take("! key on")
      expect(data("700#023E00")).to eq(["027E00AAAAAAAAAA"])
    end

    it "runs its monitors while the key is on, not only when it is switched" do
      listener.take("! fault front_right.sensor.open")
      came(1.0)
      ask("700#03190201")
      codes = Gadwall::Simulator::Uds::Server.new(vehicle, vehicle.ecu("abs")).answer([0x19, 0x02, 0x01]).first
      expect(codes.pack("C*").unpack1("H*")).to include("403413")
      listener.take("! mend front_right")
      came(1.0)
      codes = Gadwall::Simulator::Uds::Server.new(vehicle, vehicle.ecu("abs")).answer([0x19, 0x02, 0x01]).first
      expect(codes.pack("C*").unpack1("H*")).not_to include("403413")
    end

    [
      "hello",
      "! dance",
      "# later",
      "! speed fast",
      "! fault nothing.at.all",
      "! mend nowhere",
      "(1.0) can0 7000#00",
      "(100.0) can0 700#000",
      "! key",
      "!",
      "#",
      "\xFF\xFE",
      "# until 1e99"
    ].each do |line|
      it "answers #{line.inspect} by a question, and goes on" do
        expect(listener.take(line).map { |text| text[0, 3] }).to eq(["# ?"])
        expect(data("700#023E00")).to eq(["027E00AAAAAAAAAA"])
      end
    end

    it "bears 2000 random frames: nothing but frames and questions, and no time lost" do
      random = Random.new(11)
      2000.times do
        id = %w[700 708 7DF 7E0 18DA70F1 18DB33F1 18EAFFF9].sample(random: random)
        bytes = random.bytes(random.rand(0..8)).unpack1("H*").upcase
        listener.take(format("(%.6f) can%d %s#%s", clock[0], random.rand(2), id, bytes))
        expect(listener.take("# until #{clock[0] += 0.02}").last).to start_with("# now")
      end
      came(6.0)
      expect(data("700#023E00")).to eq(["027E00AAAAAAAAAA"])
    end
  end

  describe "SAE J1939" do
    let(:sheet) { { "name" => "Merganser", "booster" => "air", "towing" => "trailer", "system_voltage" => "24" } }
    let(:faults) { %w[front_left.sensor.open front_right.ring.missing] }

    # J1939-73: DM1 once a second; J1939-21: priority 7 and 50 to 200 ms between the packets of a broadcast.
    it "says what the tractor's own sensors are about, by the kind of fault" do
      vehicle.drive
      came(1.0)
      frames = came(4.0)
      tractor = frames.select { |_, id, _| id.end_with?("0B") }
      packets = tractor.select { |_, id, _| id == "1CEBFF0B" }.map(&:first)
      expect(tractor.map { |_, id, _| id }.uniq).to contain_exactly("1CECFF0B", "1CEBFF0B")
      expect(packets.each_slice(2).flat_map { |pair| pair.each_cons(2).map { |a, b| b - a } }).to all(
        be_between(0.05, 0.2)
      )
      heavy = Gadwall::Protocols::Heavy.new
      lines = tractor.map { |seconds, id, text| format("(%.6f) can1 %s#%s", seconds, id, text) }
      Gadwall::Protocols::LogReader.each(lines) { |frame| heavy.take(frame) }
      expect(heavy.codes.map { |code| [code.spn, code.fmi] }).to include([789, 5])
    end

    it "acknowledges what it is asked alone for, and nothing that everybody is asked" do
      clear = ask("18EA0BF9#D3FE00", bus: "can1", within: 0.1)
      expect(clear.map { |_, id, text| [id, text] }).to include(%w[18E8FF0B 00FFFFFFF9D3FE00])
      unknown = ask("18EA0BF9#00F000", bus: "can1", within: 0.1)
      expect(unknown.map { |_, id, text| [id, text] }).to include(%w[18E8FF0B 01FFFFFFF900F000])
      expect(ask("18EAFFF9#00F000", bus: "can1", within: 0.1).map { |_, id, _| id }).not_to include("18E8FF0B")
    end
  end
end
