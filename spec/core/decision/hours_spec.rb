# frozen_string_literal: true

require "spec_helper"

# What an option costs in hours: the repair itself by the shop's figure, and what its plan holds beyond it.
RSpec.describe "Hours of an option" do
  catalogue = Gadwall::Knowledge.catalogue

  def system(answers = {})
    Gadwall::Vehicle::System.build(Gadwall::Vehicle::Sheet.new(answers), models: CoreHelp::MODELS)
  end

  def options(location, answers = {})
    Gadwall::Decision::PlaceOptions.new(system(answers), location)
  end

  def plan(location, option, answers = {})
    system = system(answers)
    work = Gadwall::Decision::PlaceOptions.new(system, location).work(option)
    Gadwall::Repair::Composer.plan(system, [work])
  end

  it "knows every phase and every rule that it gives minutes for" do
    rules = Gadwall::Repair::RuleBase.of(catalogue).rules.map(&:id)
    known = Gadwall::Repair::Rule::PHASES + rules + ["trace"]
    expect(catalogue.day_pieces.keys - known).to be_empty
    expect(Gadwall::Repair::Rule::PHASES - catalogue.day_pieces.keys).to be_empty
  end

  # A module in one piece, opened lines: saved, drained, bled, coded, tested, driven (common practice: two hours of a
  # labour time for the unit, and as much again for what belongs to it).
  it "adds to a module's own hours what bleeding, coding, scans and the drive take" do
    unit = options("front_left/module_input").choices.find { |each| each.id == "new_module" }
    expect(unit.hours).to be_between(4.0, 6.0)
    beyond = plan("front_left/module_input", "new_module").minutes_beyond_repair(catalogue) / 60.0
    expect(unit.hours).to be_within(0.05).of(unit.repair_hours + beyond)
  end

  it "asks no hour of bleeding for a wire" do
    wire = plan("front_left/module_plug_to_body_connector", "renew_lead")
    expect(wire.steps.map(&:phase)).not_to include("fluid")
    expect(wire.minutes_beyond_repair(catalogue)).to be < 60
  end

  it "asks at least as much on a hybrid as on a car without high voltage, for each way to repair a unit" do
    plain, hybrid = [{}, { "power" => "hybrid" }].map { |answers| options("front_left/module_input", answers).choices }
    pairs = plain.filter_map { |each| [each.hours, hybrid.find { |other| other.id == each.id }&.hours] }
    expect(pairs.reject { |one, other| other.nil? || other >= one }).to be_empty
  end
end
