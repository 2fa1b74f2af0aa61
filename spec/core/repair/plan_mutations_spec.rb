# frozen_string_literal: true

require "spec_helper"
require_relative "../../support/every_work"

# Plans with a step taken out, and plans with two steps the other way round: what proves plans must refuse them. Seeded.
RSpec.describe "Plans that were spoiled" do
  composer = Gadwall::Repair::Composer
  plans =
    EveryWork::SYSTEMS.flat_map do |name, system|
      EveryWork
        .alike(name)
        .sample(7, random: Random.new(25))
        .map { |work| [system, [work], composer.plan(system, [work]).steps] }
    end

  # [sort of the mutation, the steps after it].
  def mutations(steps, random)
    places = steps.each_index.to_h { |i| [steps[i].id, i] }
    dropped = steps.each_index.map { |i| ["without #{steps[i].id}", steps[0...i] + steps[(i + 1)..]] }
    linked =
      steps.flat_map do |step|
        step.after.map { |id| ["#{step.id} before #{id}", swapped(steps, places[id], places[step.id])] }
      end
    dropped + linked.sample(40, random: random)
  end

  def swapped(steps, one, other)
    steps.dup.tap { |copy| copy.values_at(one, other).reverse.zip([one, other]) { |step, i| copy[i] = step } }
  end

  def refused?(system, works, steps)
    Gadwall::Repair::Composer.findings(system, works, steps).any?
  end

  it "refuses 98 of 100 plans from which a step was taken, or in which it stands before what it follows" do
    random = Random.new(25)
    all =
      plans.flat_map do |system, works, steps|
        mutations(steps, random).map { |what, changed| [what, refused?(system, works, changed)] }
      end
    passed = all.reject(&:last).map(&:first)
    puts "#{all.size} spoiled plans of #{plans.size}, #{all.size - passed.size} refused; passed: #{passed.tally}"
    expect(all.size).to be > 2000
    expect(passed.size).to be <= all.size * 0.02, passed.tally.to_s
  end

  it "lets two steps be the other way round only where neither waits for the other" do
    random = Random.new(26)
    safe =
      plans.flat_map do |system, works, steps|
        Array
          .new(8) { steps.each_index.to_a.sample(2, random: random).sort }
          .filter_map do |one, other|
            changed = swapped(steps, one, other)
            [steps, one, other] unless refused?(system, works, changed)
          end
      end
    expect(safe).not_to be_empty
    waiting = safe.select { |steps, one, other| waits?(steps, other, one) }
    expect(waiting.map { |steps, one, other| [steps[one].id, steps[other].id] }).to eq([])
  end

  # Does a step follow another, by whatever stands between them?
  def waits?(steps, later, earlier)
    ids = [steps[later].id]
    seen = []
    until ids.empty?
      id = ids.shift
      return true if id == steps[earlier].id

      seen << id
      ids |= steps.find { |step| step.id == id }.after - seen
    end
    false
  end
end
