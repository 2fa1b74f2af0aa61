# frozen_string_literal: true

require "spec_helper"

# Texts of codes as tools shorten them (common practice: abbreviations of SAE J1930 and those that tools make up).
RSpec.describe Gadwall::TroubleCodes::Abbreviations do
  car = { "park_brake" => "caliper_motor", "stability" => "yes" }
  tractor = { "booster" => "air", "towing" => "trailer", "sensors" => "passive", "fluid_level" => "none" }

  # [sheet, text, module, circuit, claim]
  [
    [car, "04C21-06 PBRK ACTR LH MOT OPEN CCT ACT", "Park brake", "park_brake_left", "open"],
    [car, "04C35-11 PBRK ACTR RH CURR ABV PERM RANGE ACT", "Park brake", "park_brake_right", "over_current"],
    [car, "RR WHL SPD SNSR - PERFORMANCE", "ABS", "rear_right", "implausible"],
    [tractor, "TRL EBS 1F03 NO COMMUNICATION", "Truck brake", "trailer_bus", "lost_trailer"],
    [car, "STEER ANG SENS RATIONALITY", "ABS", "steering_angle", "implausible"],
    [car, "STRG ANG SNSR NOT CAL", "ABS", "steering_angle", "not_calibrated"],
    [car, "LT RR WSS CKT OPEN HIST", "ABS", "rear_left", "open"],
    [car, "WSS RR LH SIG MISSING", "ABS", "rear_left", "no_signal"],
    [car, "L/R WSS NO SIG", "ABS", "rear_left", "no_signal"],
    [car, "RF WSS CKT SHRT TO GND", "ABS", "front_right", "short_to_ground"],
    [car, "LF WHL_SPD_SNSR PERF", "ABS", "front_left", "implausible"],
    [car, "ABS MOD SPLY VOLT LO", "ABS", "abs_module", "supply_low"],
    [car, "PMP MTR RLY CKT OPEN", "ABS", "return_pump", "open"],
    [car, "BRK PRS SNSR LO", "ABS", "brake_pressure", "below_range"],
    [car, "BRK SW IMPLAUS", "ABS", "brake_switch", "implausible"],
    [car, "YRS INT FLT", "ABS", "yaw_sensor", "internal"],
    [car, "COMMS LOST W/ SAS", "ABS", "steering_angle", "lost_message"],
    [tractor, "TRLR RT WSS AIR GAP", "Trailer", "trailer_right", "weak"]
  ].each do |sheet, text, sender, circuit, claim|
    it "places '#{text}' as #{circuit}, #{claim}" do
      reader = Gadwall::TroubleCodes::CodeReader.new(Gadwall::Vehicle::Sheet.new(sheet), Gadwall::Knowledge.catalogue)
      seen = reader.read({ "text" => text, "module" => sender })
      expect([seen.circuit_id, seen.claim, seen.text]).to eq([circuit, claim, text])
    end
  end

  it "takes the status that ends a text, and leaves a current that is too high" do
    expect(
      ["PUMP OPEN ACT", "pump open (stored)", "pump open PEND", "motor current high"].map do |text|
        described_class.status_in(text)
      end
    ).to eq(["current", "history", "pending", nil])
  end

  it "leaves a text of whole words as it is, over every text of the standard's codes" do
    short = described_class.new(Gadwall::Knowledge.catalogue)
    texts = Gadwall::Knowledge.catalogue.chassis_codes.values.map { |row| row["text"] }
    expect(texts.reject { |text| short.spelled_out(text) == text }).to be_empty
  end
end
