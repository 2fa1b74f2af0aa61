# frozen_string_literal: true

require "browser_helper"

# One warning from key-on to hand-over, in headless Chromium.
RSpec.describe "The line from intake to report", :browser do
  def vehicle(truth, **more)
    Gadwall::Evaluation::OwnCircuits::SimulatedVehicle.new(
      workshop.dossier(@number).log.system,
      truth: truth,
      random: Random.new(5),
      **more
    )
  end

  def decide_and_repair(option, figures = {})
    click_link "Decide", class: "big"
    choose "option", option: option, allow_label_click: true
    fill_in "signed_by", with: "A. Reed"
    click_button "Save decision"
    sign_repair(figures: figures)
    click_link "Verify the repair"
  end

  def prove(reading)
    choose "Yes", allow_label_click: true
    click_button "Save post-scan"
    expect(page).to have_css(".proof-item.good", text: "Post-scan")
    form = find("form[action$='/proof/repeat']")
    if form.has_field?("repeat", wait: 0)
      in_unit = { "in A" => "14m", "in V" => "5.0" }.find { |words, _| form.text.include?(words) }&.last
      form.fill_in "repeat", with: in_unit || reading
      form.click_button "Enter"
    else
      form.first("button").click # the first outcome is the one that should be
    end
    expect(page).to have_no_css("form[action$='/proof/repeat']")
    prove_by_hand
    expect(page).to have_no_css(".proof-item.todo")
    click_button "Hand over and print"
  end

  it "passive sensor: a broken wire, found, mended, proven and reported" do
    take_in(front: "Passive, two wires", tick: ["Warning lamp stays on from key on"])
    scan("C0034-13 current right front sensor open")
    before = leaders
    truth = vehicle("front_right.wire_signal.body_connector_to_sensor_plug.open")
    do_next_test(truth)
    expect(leaders).not_to eq(before)
    settle(truth)
    expect(page).to have_css(
      ".verdict.proven h1",
      text: /front right: (signal|return) wire open circuit between body connector and sensor connector/
    )
    answer =
      Gadwall::CaseFile.parse(
        Gadwall::CaseFile.dump(
          vehicle: workshop.dossier(@number).record.vehicle,
          entries: workshop.dossier(@number).log.entries.map(&:to_h)
        ),
        models: WebHelp::SHARED
      ).assess
    expect(first(".suspect[data-place]")["data-place"]).to eq(answer[:places].first[:place])
    decide_and_repair("renew_lead", "bolts_maker" => "118", "bolts_set" => "118")
    expect(page).to have_css("h1", text: "Verify the repair")
    prove("1.09k")
    expect(page).to have_css(".report-verdict", text: /wire open circuit between body connector and sensor connector/)
    expect(page).to have_text("Proven by measurement")
    expect(page).to have_button("Print")
  end

  it "active sensor: open sensor, found and decided" do
    take_in(tick: ["Warning lamp stays on from key on"])
    scan("C0037-13 current")
    settle(vehicle("rear_left.sensor.open"))
    expect(page).to have_css(".verdict.proven h1", text: "rear left: sensor open")
    decide_and_repair("new_sensor", "bolts_maker" => "118", "bolts_set" => "118")
    expect(page).to have_css("h1", text: "Verify the repair")
  end

  it "layout with one sensor for the rear axle" do
    sign_in
    visit "/jobs/new"
    select "Two front, one for the rear axle", from: "layout"
    fill_in "name", with: "Carrier"
    fill_in "customer", with: "A. Reed"
    fill_in "complaint", with: "lamp"
    click_button "Check in, start pre-scan"
    expect(page).to have_css("h1", text: "Pre-scan")
    scan("C0037-2F current")
    expect(page).to have_css(".plan-figure a", count: 9)
    expect(page).to have_css(".plan-figure a[aria-label^='rear axle']", count: 1)
    expect(page).to have_css(".suspect.lead", text: /rear axle/i)
  end

  it "wrong input at every step: told at the field, kept, nothing lost" do
    sign_in
    visit "/jobs/new"
    fill_in "customer", with: "A. Reed"
    fill_in "vin", with: "TOO SHORT"
    click_button "Check in, start pre-scan"
    expect(page).to have_css("#error-name", text: "Enter what you call the vehicle")
    expect(page).to have_css("#error-vin", text: "17 letters and digits")
    expect(page).to have_field("customer", with: "A. Reed")

    take_in(front: "Passive, two wires")
    fill_in "codes", with: "C0031-13 current\n-- ? --"
    click_button "Save pre-scan"
    expect(page).to have_css("#error-codes", text: "line 2")
    expect(page).to have_css("#error-answered", text: "Say whether")
    expect(find("textarea[name=codes]").value).to include("-- ? --")
    scan("C0031-13 current")

    visit "/jobs/#{@number}/trace?test=front_left.resistance.sensor_plug"
    expect(page).to have_css("#reading:focus")
    type("a lot", :Enter)
    expect(page).to have_css("#error-reading", text: /'a lot' is not valid. Enter a number/)
    expect(page).to have_field("reading", with: "a lot")
    expect(page).to have_css("#reading:focus")
    fill_in "reading", with: "OL"
    type(:Enter)
    expect(page).to have_css(".log-row", text: "OL")
    expect(page).to have_css(".change-read", text: "OL")

    first(".log-row .withdraw summary").click
    first(".log-row .withdraw").click_button("Withdraw")
    expect(page).to have_css(".field-error", text: "Enter what was wrong with it")
    first(".log-row .withdraw").fill_in "reason", with: "plug not apart"
    first(".log-row .withdraw").click_button("Withdraw")
    expect(page).to have_css(".log-row.withdrawn", text: "plug not apart")

    truth = vehicle("front_left.sensor.open")
    settle(truth)
    click_link "Decide", class: "big"
    click_button "Save decision"
    expect(page).to have_css("#error-signed_by", text: "customer's name")
    fill_in "signed_by", with: "A. Reed"
    click_button "Save decision"
    sign_repair(upto: "wheel_torque")
    fill_in "figures[bolts_maker]", with: "112"
    fill_in "figures[bolts_set]", with: "hand tight"
    find(".hand-form .act.big").click
    expect(page).to have_css("#error-wheel_torque", text: /'hand tight' is not valid. Enter a number from 80 to 700/)
    expect(page).to have_field("figures[bolts_set]", with: "hand tight")
    fill_in "figures[bolts_set]", with: "130"
    find(".hand-form .act.big").click
    expect(page).to have_css("#error-wheel_torque", text: /within 5 % .* or say why it differs/)
    sign_repair(figures: { "bolts_maker" => "112", "bolts_set" => "112" }, by_hand: 1)
    click_link "Verify the repair"
    fill_in "repeat", with: "fine"
    click_button "Enter"
    expect(page).to have_css("#error-repeat", text: "'fine' is not valid")
    expect(page).to have_field("repeat", with: "fine")
    click_button "Hand over and print"
    expect(page).to have_css("#error-handover", text: "Not before this is signed: Before it leaves the yard")
  end

  it "two browsers on one job: the second is told, keeps its entry and loses nothing" do
    take_in(front: "Passive, two wires")
    scan("C0031-13 current")
    test = "/jobs/#{@number}/trace?test=front_left.resistance.sensor_plug"
    visit test
    Capybara.using_session(:second) do
      sign_in
      visit test
      fill_in "reading", with: "OL"
      click_button "Enter"
      expect(page).to have_css(".log-row", text: "OL")
    end
    fill_in "reading", with: "1.1k"
    click_button "Enter"
    expect(page).to have_css("#error-conflict", text: "Another browser saved to this job")
    expect(page).to have_field("reading", with: "1.1k")
    expect(page).to have_css(".log-row", text: "OL")
    click_button "Enter"
    expect(page).to have_css(".log-row", text: "1.1 kΩ")
  end

  it "fits 1280x800 and 820x1180 without sideways scrolling, in both themes" do
    take_in(front: "Passive, two wires")
    scan("C0031-13 current")
    [[1280, 800], [820, 1180]].each do |width, height|
      page.driver.resize(width, height)
      %W[/ /jobs/new /jobs/#{@number}/codes /jobs/#{@number}/trace].each do |path|
        visit path
        expect(page.evaluate_script("document.documentElement.scrollWidth")).to be <= width, "#{path} at #{width}"
      end
    end
    page.driver.resize(1280, 800)
    click_button "Dark or light"
    dark = page.evaluate_script("getComputedStyle(document.body).backgroundColor")
    visit "/"
    expect(page.evaluate_script("getComputedStyle(document.body).backgroundColor")).to eq(dark)
    click_button "Dark or light"
    expect(page.evaluate_script("getComputedStyle(document.body).backgroundColor")).not_to eq(dark)
  end
end
