# frozen_string_literal: true

require "yaml"

RSpec.describe Gadwall::TroubleCodes do
  word = Gadwall::TroubleCodes::CodeWord

  # DT-02: SAE J2012, from memory.
  {
    "P0562" => "0562",
    "C0034" => "4034",
    "C1234" => "5234",
    "C3FFF" => "7FFF",
    "B1A2C" => "9A2C",
    "U0121" => "C121",
    "U0126" => "C126",
    "U3FFF" => "FFFF",
    "C0063" => "4063"
  }.each do |text, hex|
    it "DT-02 turns #{text} into #{hex} and back" do
      bytes = [hex].pack("H*").bytes
      expect(word.parse(text).bytes).to eq(bytes)
      expect(word.from_bytes(bytes).to_s).to eq(text)
    end
  end

  it "DT-03 carries the failure type in a third byte" do
    expect(word.from_bytes([0x40, 0x34, 0x13]).to_s).to eq("C0034-13")
    expect(word.from_bytes([0xC1, 0x26, 0x87]).to_s).to eq("U0126-87")
    expect(word.parse("C0063-29").bytes).to eq([0x40, 0x63, 0x29])
    expect(word.parse("c006329")).to eq(word.parse("C0063-29"))
  end

  it "goes round for every word there is" do
    (0..0xFFFF).step(7) do |n|
      expect(word.parse(word.from_bytes([n >> 8, n & 0xFF]).to_s).bytes).to eq([n >> 8, n & 0xFF])
    end
  end

  ["", "X0034", "C4034", "C00G4", "C0034-1", "C0034-133", nil, "C" * 4000].each do |bad|
    it "refuses #{bad.inspect[0, 20]} with what would do" do
      expect_refusal(/letter P, C, B or U/) { word.parse(bad) }
    end
  end

  # UD-04, UD-05: ISO 14229-1, from memory.
  {
    "2F" => "current",
    "AF" => "current",
    "28" => "history",
    "2C" => "history",
    "04" => "pending",
    "50" => "not_tested",
    "40" => "not_tested",
    "00" => "passed"
  }.each do |byte, said|
    it "UD-05 reads status #{byte} as #{said}" do
      expect(Gadwall::TroubleCodes::StatusByte.word(byte)).to eq(said)
    end
  end

  it "UD-04 and UD-08 name the bits" do
    expect(Gadwall::TroubleCodes::StatusByte.parse("2F").set).to eq(
      %w[testFailed testFailedThisOperationCycle pendingDTC confirmedDTC testFailedSinceLastClear]
    )
    expect_refusal(/status byte/) { Gadwall::TroubleCodes::StatusByte.word("zz") }
  end

  # DT-04, DT-05: SAE J2012-DA, from memory.
  {
    "11" => "short_to_ground",
    "12" => "short_to_supply",
    "13" => "open",
    "14" => "ground_or_open",
    "31" => "no_signal",
    "2F" => "implausible",
    "62" => "implausible",
    "49" => "internal",
    "87" => "lost_message",
    "03" => "implausible",
    "74" => "no_clamp",
    "78" => "not_calibrated",
    "7E" => "stuck_on",
    "7F" => "no_operation",
    "84" => "implausible",
    "85" => "implausible",
    # Over temperature, a wrong part and a component that is named accuse no module.
    "4A" => "any",
    "4B" => "any",
    "95" => "any",
    "96" => "any",
    "98" => "any",
    "09" => "any"
  }.each do |type, claim|
    it "DT-04 takes failure type #{type} for #{claim}" do
      expect(reader.read({ "code" => "C0031", "failure_type" => type }).claim).to eq(claim)
    end
  end

  # SAE J1939-73, from memory: a wheel sensor's mode 1 is a signal below normal; common practice: the sensor was pushed
  # back in its bush, or ring and bearing are worn. Mode 5 is the open coil.
  it "leads from mode 1 of a wheel sensor to a weak signal, from mode 5 to an open coil" do
    leads =
      %w[passive active]
        .product(%w[1 5])
        .to_h do |sensors, mode|
          lorry = system_with(sensors, booster: "air")
          [[sensors, mode], assess(lorry, scan("SPN 789 FMI #{mode}")).suspects.first.id]
        end
    expect(leads[%w[passive 1]]).to eq("front_left.sensor.weak")
    expect(leads[%w[passive 5]]).to eq("front_left.sensor.open")
    expect(leads.values_at(%w[active 1])).not_to include("front_left.sensor.open")
  end

  # SAE J1939-71 and -73, from memory; common practice: a switch over a pull-up reads high when it is open.
  {
    "SPN 168 FMI 4" => %w[abs_module supply_low],
    "SPN 627 FMI 18" => %w[abs_module supply_low],
    "SPN 789 FMI 1" => %w[front_left weak_signal],
    "SPN 790 FMI 13" => %w[front_right implausible],
    "SPN 597 FMI 3" => %w[brake_switch supply_or_open],
    "SPN 907 FMI 2" => %w[rear_left implausible],
    "SPN 796 FMI 5" => %w[valves open]
  }.each do |line, told|
    it "reads #{line} of nobody who is named as #{told.join(", ")}" do
      heavy = reader(booster: "air", towing: "trailer", fluid_level: "none")
      expect(heavy.read({ "code" => line }).then { |code| [code.circuit_id, code.claim] }).to eq(told)
    end
  end

  it "takes axle 1 for the trailer's where its modulator sent it" do
    heavy = reader(booster: "air", towing: "trailer", fluid_level: "none")
    expect(heavy.read({ "code" => "SPN 789 FMI 5", "module" => "Trailer ABS" }).circuit_id).to eq("trailer_left")
  end

  # ISO 14229-1 Annex A, from memory: each refusal that a hand can do something about says what.
  it "says of a refusal what it asks for" do
    asked = catalogue.negative_responses.transform_values { |row| row["asks"] }
    expect(asked.values_at("34", "5D", "81", "86", "8C", "94")).to all(be_a(String))
    expect(asked.values_at("10", "11", "13")).to eq([nil, nil, nil])
  end

  def reader(**vehicle)
    Gadwall::TroubleCodes::CodeReader.new(system_with("passive", **vehicle).sheet, catalogue)
  end

  it "reads a pasted line, and lets the text name the corner" do
    row = Gadwall::TroubleCodes::CodeReader.row_of("C0035-13 stored left front sensor circuit open")
    code = reader.read(row)
    expect([code.circuit_id, code.claim, code.status]).to eq(%w[front_left open history])
  end

  it "takes near side and off side by where the driver sits" do
    row = { "code" => "C1234", "text" => "near side front sensor, no signal" }
    expect(reader(driver_side: "right").read(row).circuit_id).to eq("front_left")
    expect(reader(driver_side: "left").read(row).circuit_id).to eq("front_right")
  end

  it "gives rear codes to the one rear channel of a three-sensor vehicle" do
    expect(reader(layout: "three_sensors").read({ "code" => "C0037" }).circuit_id).to eq("rear_axle")
  end

  it "keeps a code that it does not know, without a circuit" do
    code = reader.read({ "code" => "C1A7F", "text" => "horn relay" })
    expect(code.circuit_id).to be_nil
    expect_refusal(/one of \d+ known names/, error: Gadwall::UnknownNameError) do
      reader.read({ "code" => "C1A7F", "circuit" => "middle" })
    end
  end

  describe "makers' texts" do
    def everything(driver)
      system_with(
        "passive",
        park_brake: "caliper_motor",
        stability: true,
        booster: "electric_pump",
        towing: "trailer",
        pad_wear_front: "two",
        pad_wear_rear: "one",
        driver_side: driver
      ).sheet
    end

    YAML
      .safe_load_file(File.expand_path("../../cases/code_texts.yml", __dir__))
      .each do |row|
        it "reads '#{row["line"]}'#{" (driver #{row["driver"]})" if row["driver"]} as #{
             row["circuit"] ||
               "no " \
                 "circuit"
           }, #{row["claim"]}" do
          reader = Gadwall::TroubleCodes::CodeReader.new(everything(row["driver"] || "left"), catalogue)
          code = reader.read(Gadwall::TroubleCodes::CodeReader.row_of(row["line"]).merge("module" => row["module"]))
          expect([code.circuit_id, code.claim]).to eq([row["circuit"], row["claim"]])
          expect(code.status).to eq(row["status"]) if row.key?("status")
        end
      end

    it "takes the shop's correction of a code before its own reading, and the technician's word before both" do
      row = { "code" => "C1A7F", "text" => "horn relay" }
      corrections = {
        Gadwall::TroubleCodes::CodeReader.key(row) => {
          "circuit" => "return_pump",
          "claim" => "stuck_on"
        }
      }
      reader = Gadwall::TroubleCodes::CodeReader.new(everything("left"), catalogue, corrections: corrections)
      expect(reader.read(row.merge("failure_type" => "13")).then { |code| [code.circuit_id, code.claim] }).to eq(
        %w[return_pump stuck_on]
      )
      expect(
        reader.read(row.merge("circuit" => "valves", "claim" => "open")).then { |code| [code.circuit_id, code.claim] }
      ).to eq(%w[valves open])
    end

    ["SPN 600000 FMI 2", "SPN 789 FMI 32", "SPN FMI", "FMI 5"].each do |bad|
      it "refuses #{bad} with what would do" do
        expect_refusal(/SPN 0 to 524287 and FMI 0 to 31/) { Gadwall::TroubleCodes::SPN.parse(bad) }
      end
    end
  end

  # SW-07: common practice: 12 flashes = 12; two digits with about 1 s between them and about 3 s between codes.
  describe Gadwall::TroubleCodes::FlashCodes do
    # Times as a hand taps them: each span off by up to 30 percent.
    def tapped(codes, random, flash: 300, gap: 400, digit: 1100, code: 3000, off: 0.3)
      now = 0.0
      span = ->(ms) { ms * (1 + random.rand(-off..off)) }
      codes.each_with_index.flat_map do |digits, i|
        now += span.call(code) if i.positive?
        digits.each_with_index.flat_map do |count, d|
          now += span.call(digit) if d.positive?
          Array.new(count) do |n|
            now += span.call(gap) if n.positive?
            on = now
            now += span.call(flash)
            [on, now]
          end
        end
      end
    end

    it "SW-07 counts a train of twelve as 12, and drops a first train that was cut off" do
      read = described_class.read(tapped([[5], [12], [12], [12]], Random.new(1)))
      expect(read.codes.map(&:to_h)).to eq([{ code: "12", times: 3 }])
      expect([read.kinds, read.dropped, read.sure]).to eq([2, "5", true])
    end

    it "SW-07 finds two digits from the rhythm alone" do
      read = described_class.read(tapped([[1, 2], [4, 1], [1, 2], [4, 1]], Random.new(2)))
      expect(read.codes.map(&:to_h)).to eq([{ code: "12", times: 2 }, { code: "41", times: 2 }])
      expect(read.kinds).to eq(3)
    end

    it "bears 30 percent of unsteadiness, slow lamps and quick ones, in 95 of 100 runs" do
      random = Random.new(3)
      right =
        Array.new(100) do
          codes = Array.new(random.rand(1..3)) { Array.new(2) { random.rand(1..6) } }
          pace = random.rand(0.6..2.0)
          read =
            described_class.read(
              tapped(codes + codes, random, flash: 300 * pace, gap: 350 * pace, digit: 1200 * pace, code: 3600 * pace)
            )
          read.codes.map(&:code).uniq == codes.map(&:join).uniq
        end
      expect(right.count(true)).to be >= 95
    end

    it "takes one single flash for what it is, and refuses what no tapping gives" do
      expect(described_class.read([[0, 300]]).codes.map(&:code)).to eq(["1"])
      [[], [[300, 0]], [[0, Float::NAN]], "taps", [[0]]].each do |bad|
        expect_refusal(/flashes/) { described_class.read(bad) }
      end
    end

    it "goes through a scan as a code of its own, which the shop can give a meaning" do
      row = Gadwall::TroubleCodes::CodeReader.row_of("Flash 12 current")
      reader =
        Gadwall::TroubleCodes::CodeReader.new(
          system_with("passive").sheet,
          catalogue,
          corrections: {
            "FLASH 12" => {
              "circuit" => "return_pump",
              "claim" => "stuck_on"
            }
          }
        )
      expect(reader.read(row).then { |code| [code.code, code.circuit_id, code.claim, code.status] }).to eq(
        ["FLASH 12", "return_pump", "stuck_on", "current"]
      )
    end
  end
end
