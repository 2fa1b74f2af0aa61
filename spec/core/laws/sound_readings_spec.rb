# frozen_string_literal: true

require "yaml"

# Readings of sound vehicles (spec/cases/sound_readings.yml): nothing is accused, nothing doubted, nothing above 'open'.
RSpec.describe "Readings of sound vehicles" do
  LEAST_SETS = 10
  ACCUSED_FROM = 0.3 # chance of a fault in the circuit measured, where no code and no lamp speaks of it

  rows = YAML.safe_load_file(File.expand_path("../../cases/sound_readings.yml", __dir__))

  it "stand for every family of circuits, ten vehicles each" do
    expect(rows.map { |row| row["sets"].size }).to all(be >= LEAST_SETS)
  end

  rows.each do |row|
    row["sets"].each_with_index do |set, i|
      it "accuse nothing: #{row["circuit"]} #{row["vehicle"]}, vehicle #{i + 1}" do
        system = system_with(row["vehicle"]["sensors"], **row["vehicle"].except("sensors").transform_keys(&:to_sym))
        assessment = assess(system, *set.map { |id, value| entry(system, "#{row["circuit"]}.#{id}", value) })
        chance = assessment.posterior.circuit_probability(system.circuit_named(row["circuit"]))
        doubted = assessment.weights.select { |each| each.outlier_chance > Gadwall::Diagnosis::Weight::OUTLIER_FROM }
        top = assessment.posterior.places.first(3).map { |place, p| "#{place} #{p.round(2)}" }.join(", ")
        expect(doubted.map { |each| each.observation.test.id }).to eq([]), "doubted, #{top}"
        expect(chance).to be < ACCUSED_FROM, top
        expect(assessment.verdict.conclusions.reject { |each| each.suspect.none? }.map(&:state)).to all(eq("open"))
      end
    end
  end

  def entry(system, id, value)
    system.test(id).last.numeric? ? reading(id, value) : finding(id, value)
  end
end
