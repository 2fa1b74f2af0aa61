# frozen_string_literal: true

require "spec_helper"

# A lorry's wheel sensor that lies on its battery (SAE J1939-73: failure mode 3 is 'voltage above normal, or shorted to
# high source', from memory; a rested 24 V battery has 25.2 V, from memory).
RSpec.describe Gadwall::Diagnosis do
  evidence = [
    { "kind" => "scan", "codes" => [{ "code" => "SPN 791 FMI 3", "status" => "current" }] },
    { "kind" => "reading", "test" => "rear_left.stray_volts.return.body_connector", "reading" => "25.1 V" }
  ]

  it "takes 25.1 V on a sensor's wire for a short to supply, and doubts no reading" do
    sheet = { "name" => "tractor", "booster" => "air", "sensors" => "active" }
    answer = Gadwall::CaseFile.new({ "gadwall_case" => 1, "vehicle" => sheet, "evidence" => evidence }).assess
    expect(answer[:places].first[:faults].first).to match(/wire_return.*short_to_supply/)
    expect(answer[:doubtful_readings]).to eq([])
  end
end
