# frozen_string_literal: true

require_relative "../../support/core/tone_ring"
require_relative "../../support/core/outside"

# The same data through programs that are not ours: scipy for spectra and peaks, tshark (the reference decoder of ISO
# 15765-2, ISO 14229-1 and SAE J1939-21) for frames and messages.
RSpec.describe "Against programs from outside" do
  describe "signals by numpy and scipy" do
    before { skip "python3-scipy is not installed" unless Outside.scipy? }

    def analysed(time_s, values, sensor: "passive", teeth: 48)
      channel = Gadwall::Signals::Capture::Channel.new(name: "CH1", unit: "V", values: values)
      Gadwall::Signals::WheelSpeed.new(Gadwall::Signals::Capture.new(time_s, [channel]), teeth: teeth, sensor: sensor)
    end

    def spectrum(time_s, values)
      Outside.python("spectrum.py", input: "t,v\n#{time_s.zip(values).map { |pair| pair.join(",") }.join("\n")}\n")
    end

    [[0.9, "passive"], [1.7, "passive"], [2.6, "active"]].each do |turns, sensor|
      it "finds the frequency and the teeth that a spectrum and a peak finder find " \
           "(#{turns} turns a second, #{sensor})" do
        time_s, values =
          ToneRing.new(48).public_send(sensor, ->(_) { turns }, 4.0, 10_000, noise: 0.01, random: Random.new(3))
        ours = analysed(time_s, values, sensor: sensor)
        theirs = spectrum(time_s, values)
        expect(ours.drawn[:tooth_hz]).to be_within(theirs["bin_hz"] / 4).of(theirs["top_hz"])
        expect(ours.train.teeth.size).to be_within(1).of(theirs["peaks_s"].size) if sensor == "passive"
      end
    end

    it "puts the teeth as far apart as the peaks, while the speed changes" do
      time_s, values =
        ToneRing.new(48).passive(->(t) { 1.2 + (0.3 * t) }, 4.0, 20_000, noise: 0.002, random: Random.new(4))
      ours = analysed(time_s, values).train.teeth.map(&:time_s).each_cons(2).map { |a, b| b - a }
      theirs = spectrum(time_s, values)["peaks_s"].each_cons(2).map { |a, b| b - a }
      disconnected = ours.zip(theirs).first([ours.size, theirs.size].min).map { |a, b| (a - b).abs / b }
      expect(disconnected.sort[disconnected.size / 2]).to be < 0.02
    end

    it "takes as much of the mains out as a spectrum finds in it, and leaves the teeth" do
      time_s, clean = ToneRing.new(48).passive(->(_) { 1.7 }, 4.0, 10_000, volt: 0.8)
      hummed = clean.each_with_index.map { |value, i| value + (0.5 * Math.sin(2 * Math::PI * 50 * time_s[i])) }
      before = spectrum(time_s, hummed)["lines"]["50"]
      after = spectrum(time_s, Gadwall::Signals::Hum.removed(time_s, hummed))
      expect(before).to be_within(0.02).of(0.5)
      expect(after["lines"]["50"]).to be < 0.03 * before
      expect(after["top_hz"]).to be_within(0.1).of(1.7 * 48)
    end

    it "finds the missing tooth that the same steps in scipy find" do
      time_s, values =
        ToneRing.new(48, missing: [20]).passive(
          ->(t) { 1.0 + (0.05 * t) },
          5.0,
          20_000,
          volt: 1.0,
          noise: 0.003,
          start: 0.5
        )
      Tempfile.create(%w[wheel .csv]) do |file|
        file.write(
          "Time (ms),CH1 (mV)\n#{time_s.zip(values).map { |time, volt| "#{time * 1000},#{volt * 1000}" }.join("\n")}\n"
        )
        file.flush
        ours = Gadwall::Signals::CaptureFile.of(file.path, "wheel_speed", teeth: 48, sensor: "passive")
        expect(ours[:findings].map { |row| row[:teeth] }).to eq(
          [Outside.python("capture_steps.py", file.path, "48")["missing"]]
        )
      end
    end
  end

  describe "frames by tshark" do
    before { skip "tshark is not installed" unless Outside.tshark? }

    UDS = { "can.subdissector" => "iso15765", "iso15765.subdissector" => "uds" }.freeze
    UDS_FIELDS = %w[
      can.id
      uds.sid
      uds.reply
      uds.rdtci.type
      uds.rdtci.record
      uds.rdbi.data_identifier
      uds.rdbi.data_record
      uds.err.sid
      uds.err.code
    ].freeze

    # Messages as tshark put them together: [[id, bytes in hexadecimal], ...] of reading codes, reading data and
    # refusals.
    def theirs(log)
      Outside
        .tshark(log, UDS, UDS_FIELDS)
        .filter_map do |id, sid, reply, type, codes, identifier, data, refused, why|
          answer = Integer(reply, exception: false) == 1
          bytes =
            case Integer(sid, exception: false)
            when 0x19
              [format("%02x%02x", 0x19 + (answer ? 0x40 : 0), Integer(type)), codes].join
            when 0x22
              [format("%02x%04x", 0x22 + (answer ? 0x40 : 0), Integer(identifier)), data].join
            when 0x3F
              format("7f%02x%02x", Integer(refused), Integer(why))
            end
          bytes && [Integer(id) & 0x1FFFFFFF, bytes.delete(":")]
        end
    end

    def ours(log)
      transport = Gadwall::Protocols::Transport.new
      Gadwall::Protocols::LogReader
        .each(log)
        .flat_map { |frame| transport.take(frame) }
        .reject(&:error)
        .map { |message| [message.id, message.data.pack("C*").unpack1("H*")] }
    end

    # Frames of one message, as ISO 15765-2 cuts it.
    def cut(bytes, pad:)
      return [[bytes.size, *bytes]] if bytes.size < 8

      parts = bytes.drop(6).each_slice(7).with_index(1).map { |part, n| [0x20 | (n & 0xF), *part] }
      frames = [[0x10 | (bytes.size >> 8), bytes.size & 0xFF, *bytes.first(6)], *parts]
      frames[-1] += [pad] * (8 - frames[-1].size) if pad
      frames
    end

    # A conversation with several modules, their frames in between one another's, some of them lost.
    def talk(random)
      queues =
        (0..5).map do |k|
          codes = random.bytes(4 * random.rand(0..20)).bytes
          asked = { 0x7E0 + k => [cut([0x19, 2, 0xFF], pad: nil), cut([0x22, 0xF1, 0x90], pad: nil)].flatten(1) }
          told = [
            cut([0x59, 2, 0xFF, *codes], pad: [nil, 0, 0xAA][k % 3]),
            k == 4 ? cut([0x7F, 0x22, 0x31], pad: nil) : cut([0x62, 0xF1, 0x90, *"1M8GDM9AXKP042788".bytes], pad: 0x55)
          ]
          told[0].delete_at(told[0].size / 2) if k == 5 && told[0].size > 3
          asked.flat_map { |id, frames| frames.map { |data| [id, data] } } +
            told.flatten(1).map { |data| [0x7E8 + k, data] }
        end
      merged = []
      merged << queues.reject(&:empty?).sample(random: random).shift until queues.all?(&:empty?)
      merged
    end

    def written(frames)
      frames
        .each_with_index
        .map do |(id, data), i|
          format(
            "(%.6f) can0 %03X#%s\n",
            1_700_000_000 + (i * 0.002),
            id,
            data.map { |byte| format("%02X", byte) }.join
          )
        end
        .join
    end

    # tshark 4.0 mixes senders up whose frames lie between one another's, so it gets them one after the other; ours as
    # they come.
    it "puts the same messages together out of six modules' frames, some of them lost" do
      8.times do |seed|
        frames = talk(Random.new(seed))
        disconnected = frames.group_by(&:first).values.flatten(1)
        expect(ours(written(frames)).sort).to eq(theirs(written(disconnected)).sort), "seed #{seed}"
      end
    end

    # TP-03, TP-04: ISO 15765-2 and ISO 14229-1, from memory.
    it "TP-03/04 reads the worked examples as tshark does" do
      log =
        %w[
          7E0#031902FF00000000
          7E8#100F5902FF403413
          7E0#30000A0000000000
          7E8#212F40632928C126
          7E8#2287080000000000
          7E0#0322F19000000000
          7E8#101462F190314D38
          7E8#2147444D3941584B
          7E8#2250303432373838
        ].each_with_index.map { |frame, i| "(1700000000.#{format("%06d", i * 10_000)}) can0 #{frame}\n" }.join
      expect(ours(log)).to eq(theirs(log))
      expect(theirs(log).last).to eq([0x7E8, "62f190#{"1M8GDM9AXKP042788".unpack1("H*")}"])
    end

    it "J9-01 takes 29-bit ids apart into priority, group and source as tshark does" do
      random = Random.new(2)
      ids = [0x18FECA0B, 0x18EC110B, 0x0CF00400] + Array.new(200) { (random.rand(8) << 26) | random.rand(1 << 25) }
      log =
        ids
          .each_with_index
          .map { |id, i| format("(%.6f) can0 %08X#0102030405060708\n", 1_700_000_000 + (i * 0.01), id) }
          .join
      theirs =
        Outside
          .tshark(log, { "can.subdissector" => "j1939" }, %w[j1939.priority j1939.pgn j1939.src_addr])
          .map { |row| row.map(&:to_i) }
      expect(ids.map { |id| [id >> 26, Gadwall::Protocols::Heavy.group(id), id & 0xFF] }).to eq(theirs)
    end
  end
end
