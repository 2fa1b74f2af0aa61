# frozen_string_literal: true

require "yaml"

# Faults of the trade, told as evidence (spec/cases/diagnoses.yml).
RSpec.describe "Cases" do
  states = %w[open likely proven]

  YAML
    .safe_load_file(File.expand_path("../../cases/diagnoses.yml", __dir__))
    .each do |row|
      it "leads from '#{row["name"]}' to #{row["place"] || row["circuit"]}" do
        system =
          system_with(
            row["sensors"],
            layout: row["layout"] || "four_sensors",
            **(row["vehicle"] || {}).transform_keys(&:to_sym)
          )
        assessment = assess(system, *entries(system, row))
        top = assessment.posterior.places.first(4).map { |place, p| "#{place} #{p.round(3)}" }.join(", ")
        expect(
          row["circuit"] ? assessment.verdict.suspect.place.split("/").first : assessment.verdict.suspect.place
        ).to eq(row["place"] || row["circuit"]),
        top
        expect(states.index(assessment.verdict.state)).to be >= states.index(row["state"]),
        "#{assessment.verdict.state}: #{top}; missing #{assessment.verdict.missing.map(&:need)}"
      end
    end

  def entries(system, row)
    tests = row["tests"].map { |id, value| system.test(id).last.numeric? ? reading(id, value) : finding(id, value) }
    said = row["symptoms"] ? [{ "kind" => "symptoms", "ids" => row["symptoms"] }] : []
    said + [scan(*(row["codes"] || []), answered: row.fetch("answered", true))] + tests
  end
end
