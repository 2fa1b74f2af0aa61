# frozen_string_literal: true

require "time"

# After the verdict: options, steps, proof, and where a job stands.
RSpec.describe Gadwall::Job::Standing do
  let(:system) { system_with("passive", power: "hybrid", booster: "electric_pump", park_brake: "caliper_motor") }
  let(:proven_sensor) do
    [scan("C0037-13"), reading("rear_left.resistance.sensor_plug", "OL"), reading("rear_left.bias.sensor_plug", "5.0")]
  end
  let(:proven_module) do
    [
      scan("C0037-31"),
      reading("rear_left.resistance.module_plug", "1.1k"),
      reading("rear_left.ac_volts.module_plug", "0.25"),
      finding("rear_left.scope.module_plug", "even"),
      finding("rear_left.simulate_at_module", "none"),
      reading("abs_module.loaded_supply", "12.3")
    ]
  end
  let(:now) { Time.utc(2026, 11, 24, 12) }

  def stand(*entries)
    described_class.new(Gadwall::Evidence::Log.new(entries, system), rate: 70)
  end

  def decision(option)
    { "kind" => "decision", "option" => option, "signed_by" => "K. Tern", "words" => "" }
  end

  def step(id, **more)
    { "kind" => "step", "step" => id, "state" => "done", "at" => now.iso8601 }.merge(more.transform_keys(&:to_s))
  end

  it "goes from scan to trace to decide" do
    expect(stand.stage).to eq("codes")
    expect(stand(scan("C0037-13")).stage).to eq("trace")
    expect(stand({ "kind" => "scan_skipped", "reason" => "no tool" }).stage).to eq("trace")
    expect(stand(*proven_sensor).stage).to eq("decide")
    expect(stand(*proven_sensor).sentence).to start_with("Proven: rear left: sensor coil open")
  end

  it "puts options side by side, cheapest in the end marked, leaving it marked unsafe" do
    options = stand(*proven_sensor).options
    expect(options.choices.map(&:id)).to contain_exactly("new_sensor", "hub_with_sensor", "watch")
    expect(options.choices.find(&:recommended).id).to eq("new_sensor")
    expect(options.choice("watch").safety).to eq("sign")
    expect(options.choices).to all(have_attributes(expected: be >= 0))
  end

  it "advises to test first while the verdict is open, and to act when it is proven" do
    expect(stand(scan("C0037-31")).options.comparison.advice).to start_with("Test first")
    expect(stand(*proven_sensor).options.comparison.advice).to eq("Proven: act.")
  end

  it "composes steps from what the job touches" do
    sensor = stand(*proven_sensor, decision("new_sensor")).plan.steps.map(&:id)
    modul = stand(*proven_module, decision("new_module")).plan.steps.map(&:id)
    expect(sensor).to eq(%w[save_scan lift park_brake_service do_sensor gap torque clear])
    expect(modul).to eq(
      %w[
        save_scan
        support_battery
        save_parameters
        hv_off
        hv_wait
        hv_zero
        accumulator
        battery_off
        do_module
        code
        calibrate
        bleed
        clear
      ]
    )
  end

  it "opens no step before the hold above it is signed" do
    plan = stand(*proven_sensor, decision("new_sensor"), step("save_scan")).plan
    expect(plan.next_step.id).to eq("lift")
    expect_refusal(/steps before it signed.*Vehicle lifted/m) { plan.accept("do_sensor", nil, now) }
  end

  it "holds a wait until the clock has run" do
    entries = [
      *proven_module,
      decision("new_module"),
      *%w[save_scan save_parameters hv_off].map { |id| step(id) },
      step("support_battery", value: "13.4")
    ]
    idle = stand(*entries).plan
    expect_refusal(/clock started/) { idle.accept("hv_wait", nil, now) }
    running = stand(*entries, step("hv_wait", state: "started")).plan
    expect_refusal(/wait/) { running.accept("hv_wait", nil, now + 60) }
    expect(running.step("hv_wait").seconds_left(now + 60)).to eq(540)
    expect(running.accept("hv_wait", nil, now + 600)).to eq("")
  end

  it "asks for a figure and refuses one that cannot be" do
    plan =
      stand(
        *proven_sensor,
        decision("new_sensor"),
        *%w[save_scan lift park_brake_service do_sensor gap].map { |id| step(id) }
      ).plan
    expect(plan.accept("torque", "120,5", now)).to eq("120,5")
    ["", "tight", "4000"].each { |bad| expect_refusal(/Torque used.*40 to 700/) { plan.accept("torque", bad, now) } }
  end

  it "proves by last scan, the telling reading again, and the drive" do
    done = %w[save_scan lift park_brake_service do_sensor gap torque clear].map { |id| step(id) }
    entries = [*proven_sensor, decision("new_sensor"), *done]
    open = stand(*entries)
    expect(open.stage).to eq("proof")
    expect(open.proof.items.map(&:id)).to eq(
      %w[scan repeat drive.rest drive.straight drive.turns drive.walking drive.stop]
    )
    after = [
      scan.merge("phase" => "after"),
      reading(open.proof.confirming_test.then { |each| "#{each.circuit.id}.#{each.test.id}" }, "1.05k").merge(
        "phase" => "after"
      )
    ]
    drive = %w[rest straight turns walking stop].map { |id| step("drive.#{id}", value: "good") }
    expect(stand(*entries, *after, *drive).proof.proven?).to be(true)
    expect(stand(*entries, *after, *drive).stage).to eq("report")
    expect(stand(*entries, *after, *drive[0..3], step("drive.stop", value: "failed")).proof.open_points).to eq(
      ["One firm stop that makes the anti-lock work"]
    )
  end

  it "counts a code that stayed, a new one, and a module lost, against the proof" do
    before = scan("C0037-13", "C0031-31")
    compare = ->(after) { Gadwall::Proof::ScanComparison.new(before, after) }
    expect(compare.call(scan)).to be_clean
    expect(
      compare.call(scan({ "code" => "C0037", "failure_type" => "13", "status" => "28" })).turned_to_history.size
    ).to eq(1)
    expect(compare.call(scan("C0037-13")).clean?).to be(false)
    expect(compare.call(scan("C0034-13")).new.size).to eq(1)
    expect(compare.call(scan(answered: false)).modules_lost).to eq(["ABS"])
  end

  it "has a way to mend every fault that any circuit can have, with steps that hold" do
    Gadwall::Bench::Study::VEHICLES.each_value do |sheet|
      system =
        Gadwall::Vehicle::System.build(
          Gadwall::Vehicle::Sheet.new({ "name" => "x" }.merge(sheet)),
          models: CoreHelp::MODELS
        )
      system
        .circuits
        .flat_map { |circuit| circuit.model.faults.map { |fault| [circuit, fault] } }
        .uniq { |circuit, fault| [circuit.family, fault.repair] }
        .each do |circuit, fault|
          ways =
            system.catalogue.repairs.values.select do |record|
              record["repair"] == fault.repair &&
                (record["families"].nil? || record["families"].include?(circuit.family))
            end
          expect(ways).not_to be_empty, "#{circuit.id}: #{fault.repair}"
          suspect =
            Gadwall::Diagnosis::Suspects::Suspect.new(
              members: [[circuit, fault]],
              probability: 0.99,
              place: "#{circuit.id}/#{fault.place}"
            )
          choice = Gadwall::Decision::Options::Choice.new(id: ways.first["id"], needs: ways.first["needs"])
          plan = Gadwall::Repair::Plan.new(system.sheet, [[suspect, choice]], Gadwall::Evidence::Log.new([], system))
          expect(plan.steps.count(&:hold)).to be >= 1, fault.repair
          expect(plan.steps.map(&:id).grep(/\Ado_/).size).to eq(1), fault.repair
        end
    end
  end

  it "compares scans with codes of heavy vehicles and codes counted from a lamp" do
    before =
      scan.merge(
        "codes" => [
          { "code" => "SPN 789 FMI 5", "status" => "current" },
          { "code" => "FLASH 12", "status" => "current" }
        ]
      )
    compared =
      Gadwall::Proof::ScanComparison.new(
        before,
        before.merge("codes" => [{ "code" => "Flash 12", "status" => "history" }])
      )
    expect([compared.gone.size, compared.turned_to_history.size, compared.new.size]).to eq([1, 1, 0])
  end
end
