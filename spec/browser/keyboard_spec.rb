# frozen_string_literal: true

require "browser_helper"

# The main line without a mouse: Tab, Space, arrows, digits and Enter.
RSpec.describe "By keyboard alone", :browser do
  def focused
    page.evaluate_script(
      "((e) => (e.matches('button, a, summary') ? e.textContent : e.name || e.id || '').trim())(document.activeElement)"
    )
  end

  # Tab on until the wanted field or button has the focus.
  def tab_to(wanted, most: 80)
    most.times do
      return if wanted === focused # rubocop:disable Style/CaseEquality -- a String or a Regexp

      type(:Tab)
    end
    raise "Tab never reached #{wanted.inspect}"
  end

  # The first steps, then the last.
  def sign_steps_by_keyboard
    keyboard_signs(3)
    sign_repair(upto: "wheel_torque", by_hand: 0)
    keyboard_signs(20)
  end

  def keyboard_signs(most)
    most.times do
      return if has_link?("Verify the repair", wait: 0)

      row = step_at_hand
      given = Demo::SignOff.values(row.step)
      given[:figures].each { |id, text| [tab_to("figures[#{id}]"), type(text)] }
      tab_to("Sign off")
      type(:Enter)
      expect(page).to have_no_css(".hand[id='#{row.id}']:not(.done)")
    end
  end

  it "takes a vehicle in, scans, traces, decides and signs" do
    sign_in
    tab_to("Check in a vehicle")
    type(:Enter)
    expect(page).to have_css("h1", text: "Check in a vehicle")
    tab_to("name")
    type("Keyboard van")
    tab_to("customer")
    type("A. Reed")
    tab_to("complaint")
    type("lamp on")
    tab_to("Check in, start pre-scan")
    type(:Enter)
    expect(page).to have_css("h1", text: "Pre-scan")
    @number = page.current_path[/J\d+/]

    tab_to("codes")
    type("C0034-13 current")
    tab_to("answered")
    type(" ")
    tab_to("Save pre-scan")
    type(:Enter)
    expect(page).to have_css("#trace")

    vehicle =
      Gadwall::Evaluation::OwnCircuits::SimulatedVehicle.new(
        workshop.dossier(@number).log.system,
        truth: "front_right.sensor.open",
        random: Random.new(8)
      )
    settle(vehicle)
    expect(page).to have_css(".verdict.proven")
    expect(focused).to eq("Decide")
    type(:Enter)
    expect(page).to have_css("legend", text: "Repair options")
    tab_to("signed_by")
    type("A. Reed")
    tab_to("Save decision")
    type(:Enter)
    sign_steps_by_keyboard
    expect(page).to have_link("Verify the repair")
  end

  it "chooses another test, and comes back to the best, from the list" do
    take_in(front: "Passive, two wires")
    scan("C0031-13 current")
    best = find("#test-title").text
    find("#reading, [data-focus]", match: :first)
    if has_link?("Oscilloscope at the sensor plug, wheel turned evenly", wait: 0)
      tab_to("Oscilloscope at the sensor plug, wheel turned evenly")
    end
    link = first(".other-list a")
    title = link.text
    link.send_keys(:enter)
    expect(page).to have_css("#test-title", text: title.split(": ").last)
    visit "/jobs/#{@number}/trace"
    expect(page).to have_css("#test-title", text: best)
  end

  it "fetches any test of the circuit, and any corner of the plan" do
    take_in(front: "Passive, two wires")
    scan("C0031-13 current")
    select "Inspect tone ring, all the way round", from: "pick"
    click_button "Show"
    expect(page).to have_css("#test-title", text: "Inspect tone ring, all the way round")
    expect(page).to have_css(".outcome-buttons button", count: 5)
    type("2")
    expect(page).to have_css(".log-row", text: "cracked, gap widened")
    expect(page).to have_css("#trace [data-focus]:focus") # the hand is ready again
    find("a[aria-label^='rear right']").send_keys(:enter)
    expect(page).to have_css(".harness-title", text: "Rear right")
  end
end
