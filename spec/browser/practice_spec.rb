# frozen_string_literal: true

require "browser_helper"

# The practice bay in a browser: from complaint to score, by hand.
RSpec.describe "Practice", :browser do
  def begin_exercise(page, complaint)
    sign_in("L. Sandpiper")
    page.visit "/practice"
    page.first(".exercise", text: complaint).click
    page.assert_selector "#reading-modules"
    number = page.current_path[%r{/jobs/(P\d+)/}, 1]
    page.click_button "Read every module"
    page.assert_selector "h2", text: /\AScan/
    number
  end

  def touch(page, selector)
    page.find(selector).click
  end

  # Enter on what has the focus, no click before it.
  def enter(page, selector)
    page.assert_selector selector
    page.execute_script("document.querySelector(arguments[0]).focus()", selector)
    page.driver.browser.keyboard.type(:enter)
  end

  def journal(page, text)
    page.assert_selector ".bench-journal li", text: text
  end

  def safe_and_up(page)
    { "lf-0" => "Wheels chocked", "lf-1" => "Lifted", "lf-2" => "Stands under it", "lf-3" => "off" }.each do |id, text|
      touch(page, "##{id}")
      journal(page, text)
    end
  end

  it "is worked from complaint to score, once right: by touch, reading by reading, plan, drive and hand-over" do
    number = begin_exercise(page, "Two garages say a sensor")
    page.visit "/jobs/#{number}/trace"
    expect(page).to have_no_css(".suspects")
    page.visit "/jobs/#{number}/bench?circuit=front_right"
    safe_and_up(page)
    touch(page, "#sw-0")
    journal(page, "Key off")
    page.find(".joint-touch[data-joint=sensor_plug]").click
    journal(page, "sensor connector disconnected")
    touch(page, "#range-ohms")
    page.assert_selector "#bench[data-range=ohms]"
    touch(page, "#point-signal-sensor_plug-far")
    page.assert_selector "#bench[data-red]"
    touch(page, "#point-return-sensor_plug-far")
    page.assert_selector "#take"
    touch(page, "#take")
    page.assert_no_selector "#take"
    page.visit "/jobs/#{number}/trace"
    expect(page).to have_css(".log-row", minimum: 3)
    8.times do
      break if page.has_css?(".verdict.proven", wait: 0.2)

      page.click_button "Hint for this moment" if page.has_button?("Hint for this moment", wait: 0.2)
      page.click_button "Do it on the vehicle"
      sleep 0.2
    end
    page.assert_selector ".verdict.proven"
    page.visit "/jobs/#{number}/bench?circuit=front_right"
    page.find(".bench-fit summary").click
    page.find("select[aria-label='Place to repair']").find("option", exact_text: "Sensor").select_option
    page.click_button "Repair or replace it"
    journal(page, "sensor: done")
    touch(page, "#act-clear")
    journal(page, "modules cleared")
    page.find(".bench-fit summary").click
    page.click_button "Hand the vehicle back"
    page.click_link "How it went"
    score = page.find(".debrief-score").text.to_i
    expect(score).to be >= 60
    expect(page.all(".lessons li").size).to eq(3)
    page.visit "/practice"
    expect(page).to have_text("best #{score}")
  end

  it "costs a part that was condemned too early, by keyboard alone" do
    number = begin_exercise(page, "stood in the flood water")
    page.visit "/jobs/#{number}/bench?circuit=rear_right"
    enter(page, "#lf-0")
    journal(page, "Wheels chocked")
    enter(page, "#range-ohms")
    page.assert_selector "#bench[data-range=ohms]"
    enter(page, "#point-signal-module_plug-far")
    page.assert_selector "#bench[data-red]"
    enter(page, "#point-return-module_plug-far")
    page.assert_selector ".bench-journal li", text: /Ω|OL/
    { "lf-1" => "Lifted", "lf-2" => "Stands under it" }.each do |id, text|
      enter(page, "##{id}")
      journal(page, text)
    end
    enter(page, ".bench-fit summary")
    page.find("select[aria-label='Place to repair']").find("option", exact_text: "Sensor").select_option
    enter(page, "#act-mend")
    journal(page, "sensor: done")
    enter(page, ".bench-fit summary")
    enter(page, "#act-finish")
    page.click_link "How it went"
    expect(page).to have_text("condemned without proof")
    expect(page).to have_text("A fault is still in the vehicle")
    expect(page.find(".debrief-score").text.to_i).to be < 50
  end

  it "ends where a safe-down was skipped, and says what would have happened" do
    number = begin_exercise(page, "pump hums at each touch")
    page.visit "/jobs/#{number}/bench?circuit=accumulator"
    page.find(".bench-fit summary").click
    page.click_button "Repair or replace it"
    page.assert_selector ".bench-ended"
    expect(page).to have_text(/live|charged|chocked|proven/)
    page.click_link "How it went"
    expect(page.find(".debrief-score").text).to eq("0")
  end

  it "turns a wheel by a key that is held, and shows the trace" do
    number = begin_exercise(page, "grinds at the pedal")
    page.visit "/jobs/#{number}/bench?circuit=rear_left"
    safe_and_up(page)
    touch(page, "#point-signal-sensor_plug-far")
    page.assert_selector "#bench[data-red]"
    touch(page, "#point-return-sensor_plug-far")
    page.assert_selector "#bench[data-black]"
    page.find("#spin").send_keys("w")
    journal(page, "peak to peak")
    expect(page.find("canvas.scope")["data-trace"]).to include("values")
  end

  it "keeps out of the workshop's jobs, search and closed cases" do
    number = begin_exercise(page, "lamp flickers in bends")
    page.visit "/"
    expect(page).to have_no_text(number)
    page.visit "/jobs/closed?q=Ferry+hatchback"
    expect(page).to have_no_text("Ferry hatchback, teal")
  end
end
