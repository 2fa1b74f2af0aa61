# frozen_string_literal: true

require "spec_helper"
require_relative "../../support/every_work"

# How the vehicle stands while a plan is signed, and what asks again once a step was not needed (common practice: who
# takes over looks at what is off, hung, open and without power before he touches anything).
RSpec.describe Gadwall::Repair::Standing do
  def plan_of(name, location, option = nil)
    system = EveryWork::SYSTEMS.fetch(name)
    work =
      EveryWork::WORKS.fetch(name).find { |each| each.location == location && (option.nil? || each.option == option) }
    [system, Gadwall::Repair::Composer.plan(system, [work])]
  end

  def standing(system, plan, done: [], left_out: [], ticked: {}, left: [])
    rules = Gadwall::Repair::StateRules.of(system.catalogue, system.sheet)
    states = done.to_h { |id| [id, "done"] }.merge(left_out.to_h { |id| [id, "not_needed"] })
    described_class.new(rules, plan.steps, touches: plan.touches, done: states, ticked: ticked, left: left)
  end

  def upto(plan, id)
    plan.steps.map(&:id).take_while { |each| each != id } + [id]
  end

  it "says what is off, hung and loose in the middle of a repair, what was done last first" do
    system, plan = plan_of("hatchback", "front_left/ring", "new_ring")
    said = standing(system, plan, done: upto(plan, "caliper_hung")).now.said
    expect(said.first(3)).to match([/caliper hung up, front left/, /wheel off, front left/, /on the lift/])
    expect(said.join).not_to match(/wheel bolts|caliper bolts/)
    said = standing(system, plan, done: upto(plan, "wheel_on")).now.said
    expect(said.join(" ")).to include("wheel bolts not tightened").and include("pedal goes to the floor")
  end

  it "says that 12 V, the line and the pedal are not as they are on the road" do
    system, plan = plan_of("hatchback", "valves/valve", "new_hydraulic_unit")
    opened = plan.steps.find { |step| step.does.include?("opens:brake_line") }
    said = standing(system, plan, done: upto(plan, opened.id)).now.said.join(" ")
    expect(said).to include("brake line open").and include("12 V off").and include("disconnected")
  end

  it "leaves nothing to be said once every step of any plan is signed" do
    random = Random.new(7)
    EveryWork::SYSTEMS.each do |name, system|
      EveryWork::WORKS[name]
        .sample(6, random: random)
        .each do |work|
          plan = Gadwall::Repair::Composer.plan(system, [work])
          all = standing(system, plan, done: plan.steps.map(&:id))
          expect([name, work.location, all.now.said + all.now.owed, all.asked]).to eq([name, work.location, [], {}])
        end
    end
  end

  it "asks what depended on a step again, where it was not needed" do
    system, plan = plan_of("hatchback", "front_left/ring", "new_ring")
    before = upto(plan, "lift")
    asked = standing(system, plan, done: before, left_out: ["wheel_off"]).asked
    expect(asked).to eq("caliper_hung" => ["It is so now: wheel off, front left"])
    signed = standing(system, plan, done: before + ["caliper_hung"], left_out: ["wheel_off"], ticked: asked)
    expect([signed.asked, signed.now.said.first(2)]).to match([{}, [/caliper hung/, /wheel off/]])
  end

  it "asks at the end for what was never given back" do
    system, plan = plan_of("hatchback", "front_left/ring", "new_ring")
    asked = standing(system, plan, left_out: %w[wheel_torque]).asked.values.flatten
    expect(asked).to include("It is over now: wheel bolts not tightened to torque, front left")
  end

  # Law: whatever is left out of whatever plan, once all that was asked is ticked the vehicle is fit for the road.
  it "brings the vehicle back to the road whatever was not needed, once all that is asked is ticked" do
    random = Random.new(11)
    EveryWork::SYSTEMS.each do |name, system|
      EveryWork::WORKS[name]
        .sample(6, random: random)
        .each do |work|
          plan = Gadwall::Repair::Composer.plan(system, [work])
          left_out = plan.steps.reject { |step| entered?(step) }.map(&:id).sample(3, random: random)
          ticked = standing(system, plan, left_out: left_out).asked
          now = standing(system, plan, done: plan.steps.map(&:id), left_out: left_out, ticked: ticked).now
          expect([name, work.location, left_out, now.facts]).to eq([name, work.location, left_out, []])
        end
    end
  end

  def entered?(step)
    step.does.intersect?(Gadwall::Repair::Progress::ENTERED)
  end

  it "begins with what the trace left open, and asks whether it is closed" do
    system, plan = plan_of("hatchback", "front_left/ring", "new_ring")
    opened = standing(system, plan, left: [["relay_out", nil], ["lifted", nil], %w[wheel_off rear_left]])
    expect(opened.now.said).to eq(["wheel off, rear left", "on the lift or on stands", "relay out"])
    expect(opened.asked.values.flatten).to include("It is over now: wheel off, rear left", "It is over now: relay out")
  end

  describe "from the vehicle as the trace left it" do
    let(:wheel) { [%w[lifted rear_right], %w[wheel_off rear_right], %w[wheel_bolts_loose rear_right]] }

    def composed(name, location, option, left)
      system = EveryWork::SYSTEMS.fetch(name)
      work = EveryWork::WORKS.fetch(name).find { |each| each.location == location && each.option == option }
      [system, Gadwall::Repair::Composer.plan(system, [work], left: left)]
    end

    it "puts back what was taken out, and says which steps are so already" do
      system, plan = composed("hatchback", "rear_right/sensor_plug", "renew_terminals", wheel)
      expect(plan.steps.flat_map(&:does)).to include("wheel_on:rear_right", "lowers:rear_right", "torque:wheel_bolts")
      standing = standing(system, plan, left: wheel)
      expect(standing.so_already.keys).to eq(%w[lift wheel_off])
      expect(standing.asked.values.flatten).to be_empty
      expect(standing(system, plan, left: wheel, done: plan.steps.map(&:id)).now.facts).to eq([])
    end

    it "puts back a relay and takes out a test bulb before there is power again" do
      left = [["relay_out", nil], ["bulb_fitted", nil]]
      _, plan = composed("hatchback", "front_left/sensor", "new_sensor", left)
      done = plan.steps.flat_map(&:does)
      expect(done.index("puts_back:relay")).to be < done.index("clear:codes")
      expect(done.index("puts_back:part_at_bulb")).to be < done.index("clear:codes")
    end

    it "leaves nothing undone of what was left open, over seeded works of every vehicle" do
      random = Random.new(25)
      from_there = all = 0
      EveryWork::SYSTEMS.each do |name, system|
        corner = system.sheet.corners.sample(random: random)
        left = wheel.map { |id, _| [id, corner] } + [["relay_out", nil]].sample(random.rand(2), random: random)
        EveryWork::WORKS[name]
          .sample(8, random: random)
          .each do |work|
            plan = Gadwall::Repair::Composer.plan_from(left, system, [work])
            ticked = standing(system, plan, left: left).asked
            from_there += 1 if ticked.empty?
            all += 1
            now = standing(system, plan, done: plan.steps.map(&:id), left: left, ticked: ticked).now
            expect([name, work.location, now.facts]).to eq([name, work.location, []])
          end
      end
      expect(from_there).to be > all * 0.7
    end
  end
end
