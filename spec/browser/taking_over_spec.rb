# frozen_string_literal: true

require "browser_helper"

# A repair that stops half way and goes on in other hands, and a drive that a thumb can sign.
RSpec.describe "Taking over", :browser do
  Acts = Gadwall::Job::Acts

  def perform(act, values)
    done = workshop.perform(@number, act, values, by: WebHelp::PERSON) { "/" }
    raise done.errors.to_s unless done.ok?
  end

  # A tone ring that was found missing, decided by its act.
  def ring_decided
    take_in(front: "Passive, two wires", rear: "Passive, two wires")
    scan("C0031-62 current")
    perform(Acts::TakeReading, test: "front_left.look_ring", typed: "missing", phase: "before")
    perform(Acts::TakeReading, test: "front_left.live_speed", typed: "none", phase: "before")
    perform(Acts::Decide, option: "new_ring", signed_by: "A. Reed", words: "")
    visit "/jobs/#{@number}/repair"
  end

  # A wire with a break, traced on a simulated vehicle and decided by its acts.
  def wire_decided
    take_in(front: "Passive, two wires", rear: "Passive, two wires")
    scan("C0031-13 current")
    system = workshop.dossier(@number).system
    fault = "front_left.wire_signal.body_connector_to_sensor_plug.open"
    vehicle =
      Gadwall::Evaluation::OwnCircuits::SimulatedVehicle.new(
        system,
        truth: fault,
        severity: 2e8,
        random: Random.new(25)
      )
    until (job = workshop.dossier(@number)).assessment.verdict.state == "proven"
      measure(vehicle)
    end
    option = job.options.choices.find { |each| each.id == "renew_lead" }
    perform(Acts::Decide, option: option.id, signed_by: "A. Reed", words: "")
  end

  def measure(vehicle)
    advised = workshop.dossier(@number).assessment.next_tests.first
    typed = vehicle.perform(advised.circuit, advised.test).to_s
    perform(Acts::TakeReading, test: advised.id, typed: typed, phase: "before")
  end

  def change_person(name)
    find(".person summary").click
    fill_in "person-name", with: name
    click_button "Change"
    expect(page).to have_css(".person summary", text: name)
  end

  it "shows whoever takes over what is hung, off and loose, in big letters" do
    ring_decided
    sign_repair(upto: "renew_ring-front_left-ring")
    change_person("L. Marsh")
    ["/jobs/#{@number}/repair", "/jobs/#{@number}/vehicle"].each do |path|
      visit path
      expect(page).to have_css(".stands-strip li", text: "Caliper hung up, front left")
      expect(page).to have_css(".stands-strip li", text: "Wheel off, front left")
    end
    size = page.evaluate_script("getComputedStyle(document.querySelector('.stands-strip li')).fontSize").to_f
    expect(size).to be >= 20
    visit "/day"
    expect(page).to have_css(".day-stands", text: /#{@number} as it stands now: .*caliper hung up/i)
  end

  it "brings back what depended on a step that was marked as not needed" do
    ring_decided
    sign_repair(upto: "wheel_off", by_hand: 0)
    find("summary", text: "Not needed").click
    fill_in "why-wheel_off", with: "it was off"
    click_button "Mark as not needed"
    expect(page).to have_css(".hand-title", text: /caliper/i)
    expect(page).to have_css(".tick", text: "It is so now: wheel off, front left")
    find(".hand-form .act.big").click
    expect(page).to have_css(".field-error", text: "It is so now: wheel off, front left")
    find(".tick", text: "It is so now").click
    find(".hand-form .act.big").click
    expect(page).to have_css(".stands-strip li", text: "Wheel off, front left")
  end

  it "takes OL for the insulation of a mended wire, as a good meter shows it" do
    wire_decided
    sign_repair(upto: "wire_measured", by_hand: 0)
    fill_in "figures[core]", with: "0.1"
    fill_in "figures[insulation]", with: "OL"
    find(".hand-form .act.big").click
    expect(page).to have_no_css(".hand[id='wire_measured']:not(.done)")
    expect(workshop.dossier(@number).plan.row("wire_measured").values).to include("insulation" => "OL")
  end

  it "is driven and signed with one thumb, 390 px wide" do
    wire_decided
    sign_repair(by_hand: 0)
    perform(Acts::KeepScan, phase: "after", modules: [{ "name" => "ABS", "answered" => true }], codes: [])
    workshop.dossier(@number).plan.proof.select { |row| row.step.phase == "drive" }.each { |row| sign_by_act(row, {}) }
    page.current_window.resize_to(390, 844)
    visit "/jobs/#{@number}/proof"
    legs = workshop.dossier(@number).proof.open_legs
    expect(legs.size).to be <= 4
    legs.each { |leg| drive_leg(leg) }
    check "Status read: all ran, but for those named"
    click_button "Sign off the drive"
    expect(page).to have_no_css(".drive-card")
    expect(workshop.dossier(@number).proof.open_legs).to eq([])
  ensure
    page.current_window.resize_to(1280, 800)
  end

  # One leg on show at a time, its button under the thumb and as wide as the card; a page loaded again stays there.
  def drive_leg(leg)
    expect(page).to have_css(".drive-leg h2", text: leg.title, count: 1)
    visit page.current_path
    button = find_button("Done")
    box =
      page.evaluate_script(
        "(() => { const b = document.querySelector('.drive-leg:not([hidden]) .big')" \
          ".getBoundingClientRect(); return [b.width, b.height, b.right]; })()"
      )
    expect([box[0] >= 300, box[1] >= 64, box[2] <= 390]).to eq([true, true, true])
    button.click
  end
end
