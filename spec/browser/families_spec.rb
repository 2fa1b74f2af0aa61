# frozen_string_literal: true

require "browser_helper"

# Beyond wheel speed: two faults side by side, one cause for two circuits, the sheet drawn as it is typed, a lamp tapped
# along.
RSpec.describe "Every circuit of the brakes", :browser do
  def simulated(*truths, seed: 1)
    Gadwall::Evaluation::OwnCircuits::SimulatedVehicle.new(
      workshop.dossier(@number).log.system,
      truth: truths,
      random: Random.new(seed),
      noise: 0.01
    )
  end

  it "two unrelated faults: followed side by side, each proven, each decided, both repaired" do
    sign_in
    visit "/jobs/new"
    select "EPB motor on caliper", from: "park_brake"
    fill_in "name", with: "Two-fault van"
    fill_in "customer", with: "A. Reed"
    fill_in "complaint", with: "two lamps"
    click_button "Check in, start pre-scan"
    expect(page).to have_css("h1", text: "Pre-scan")
    @number = page.current_path[/J\d+/]
    scan("C1B11 current parking brake motor left, circuit open\nC0034-62 current")
    expect(page).to have_css(".investigations li", count: 2)
    settle(
      simulated("park_brake_left.wire_plus.body_connector_to_motor_plug.open", "front_right.ring.sprung", seed: 6),
      most: 20
    )
    expect(page).to have_css(".verdict.proven h1", count: 2)
    expect(page).to have_css(".code-cause", count: 2)
    click_link "Decide"
    2.times do |i|
      expect(page).to have_css(".test-minutes", text: "fault #{i + 1} of 2")
      fill_in "signed_by", with: "A. Reed"
      click_button "Save decision"
    end
    expect(page).to have_current_path("/jobs/#{@number}/repair")
    expect(page).to have_content("Replace tone ring").and have_content("Repair wire with sealed crimps")
  end

  it "one common cause: a wet plug behind two circuits is shown in both before it is proven" do
    take_in(front: "Passive, two wires", rear: "Passive, two wires", tick: ["After rain, washing or deep water"])
    scan("C0031-13 current\nC0034-13 current")
    settle(
      simulated(
        "front_left.module_plug.signal.high_resistance",
        "front_right.module_plug.return.high_resistance",
        seed: 4
      ),
      most: 20
    )
    expect(page).to have_css(
      ".verdict.proven",
      text: /module connector, common to several circuits \(front left, front right\)/
    )
    expect(page).to have_css(".harness-figure .place-mark.suspect")
  end

  it "the sheet: the line is drawn as it is typed, a joint is added by keyboard and can be measured at" do
    take_in(front: "Passive, two wires")
    visit "/jobs/#{@number}/vehicle?circuit=front_left"
    fill_in "Name of connector 2", with: "Bulkhead plug"
    expect(page).to have_css("#drawn .connector-name", text: "Bulkhead plug")
    fill_in "Metres of harness section 1", with: "far"
    expect(page).to have_css("#error-drawn", text: "'far' is not valid")
    fill_in "Metres of harness section 1", with: "2.2"
    expect(page).to have_css("#drawn .place-note", text: "2.2 m")
    find("button[aria-label='Add a connector after module connector']").send_keys(:enter)
    expect(page).to have_css(".connector-row", count: 4)
    fill_in "Name of connector 2", with: "Dash plug"
    click_button "Save circuit"
    expect(page).to have_css(".circuit-list .tag", text: "yours")
    visit "/jobs/#{@number}/codes"
    scan("C0031-13 current")
    expect(page).to have_css(".harness-figure .connector-name", text: "Dash plug")
    select "Resistance of sensor and wiring at Dash plug", from: "pick"
    click_button "Show"
    expect(page).to have_css("#test-title", text: "Resistance of sensor and wiring at Dash plug")
  end

  it "a lamp tapped along with the space bar becomes a code of the scan" do
    take_in(front: "Passive, two wires")
    key = find("button", text: "Lamp lit")
    execute_script("arguments[0].focus()", key)
    [0.0, 0.2, 0.4, 1.8, 2.0, 2.2].each { |at| tap_space(at) }
    expect(page).to have_content("6 flashes")
    click_button "Count"
    expect(page).to have_css(".flash-code", text: "3")
    click_button "Add to the scan"
    expect(page).to have_field("codes", with: "FLASH 3 current")
  end

  # Down at so many seconds after now and up 80 ms later, by the times in the events, so that a slow machine taps no
  # slower.
  def tap_space(at)
    @tap_start ||= Process.clock_gettime(Process::CLOCK_REALTIME)
    { "keyDown" => at, "keyUp" => at + 0.08 }.each do |type, time|
      page.driver.browser.page.command(
        "Input.dispatchKeyEvent",
        type: type,
        key: " ",
        code: "Space",
        windowsVirtualKeyCode: 32,
        text: " ",
        timestamp: @tap_start + time
      )
    end
  end

  it "what shifts the odds is seen, and can be said otherwise" do
    take_in(front: "Passive, two wires", tick: ["Warning lamp comes on only after moving off"])
    scan("C0031-31 current")
    before = leaders
    find("summary", text: "Symptoms and history used").click
    uncheck "Warning lamp comes on only after moving off", allow_label_click: true
    check "Warning lamp stays on from key on", allow_label_click: true
    click_button "Update"
    expect(page).to have_css("summary", text: "Symptoms and history used: warning lamp stays on from key on")
    expect(leaders).not_to eq(before)
    expect(page).to have_css(".log-row.withdrawn", text: "circumstances updated")
  end
end
