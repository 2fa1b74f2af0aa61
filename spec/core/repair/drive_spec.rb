# frozen_string_literal: true

require "spec_helper"
require_relative "../../support/every_work"

# The proof drive in proportion: which check is owed to which effect, and nothing else is asked
# (data/repairs/drive.yml; common practice).
RSpec.describe Gadwall::Repair::DriveLegs do
  def legs(name, location, option)
    work = EveryWork::WORKS.fetch(name).find { |each| each.location == location && each.option == option }
    Gadwall::Repair::Composer.plan(EveryWork::SYSTEMS.fetch(name), [work]).drive
  end

  it "asks for the joint to hold, not for the ring or an ABS stop, where a terminal was mended" do
    found = legs("hatchback", "front_left/sensor_plug", "renew_terminals")
    expect(found.map(&:id)).to eq(%w[key_on straight rough])
  end

  it "asks for the ring at every revolution where a ring was renewed" do
    found = legs("hatchback", "front_left/ring", "new_ring")
    expect(found.map(&:leg)).to include("rollouts", "hard_stop")
    expect(found.map(&:leg)).not_to include("rough")
  end

  it "never gives two legs one name, and asks for no check to which nothing of the plan gives a reason" do
    EveryWork::SYSTEMS.each do |name, system|
      EveryWork
        .alike(name)
        .each_slice(3) do |work, *| # every third: each plan is composed, and the specs of plans compose them all
          plan = Gadwall::Repair::Composer.plan(system, [work])
          titles = plan.drive.map(&:title)
          expect(titles.uniq).to eq(titles), "#{name} #{work.location}: #{titles}"
          expect(plan.drive.flat_map(&:proves) - owed(plan, work)).to eq([]), "#{name} #{work.location} #{work.option}"
        end
    end
  end

  # What rows of the table owe, by their words, families and circuits.
  def owed(plan, work)
    words = plan.touches + plan.steps.flat_map(&:does) + %w[watched]
    catalogue
      .drive
      .values
      .select { |row| reason?(row, words, work) && (row["only_if"].nil? || named?(words, row["only_if"])) }
      .map { |row| row["proves"] }
  end

  def reason?(row, words, work)
    named?(words, row["words"]) || named?([work.family], row["families"]) || named?([work.circuit], row["circuits"])
  end

  def named?(words, patterns)
    (patterns || []).any? { |pattern| words.any? { |word| File.fnmatch(pattern, word) } }
  end
end
