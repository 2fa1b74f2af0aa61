# frozen_string_literal: true

require "browser_helper"

# What a technician sees, touches and says: lamps at check-in, is it there now, what a test needs, codes of words alone,
# how often it was caught, do not drive.
RSpec.describe "What the technician sees", :browser do
  it "touches the lamps at check-in; the red one keeps the vehicle off the road on every page" do
    sign_in
    visit "/jobs/new"
    fill_in "name", with: "Ferry bus"
    fill_in "customer", with: "A. Reed"
    fill_in "complaint", with: "red lamp and a message"
    find(".lamp", text: "BRAKE").click
    find(".lamp", text: "FLUID").click
    check "All others pass their bulb check and stay out"
    expect(page).to have_css(".lamp:has(input:checked)", count: 2)
    click_button "Check in, start pre-scan"
    expect(page).to have_css("h1", text: "Pre-scan")
    expect(page).to have_css(".stop-strip", text: "Do not drive: red brake warning lamp on; brake fluid low")
    scan("")
    expect(page).to have_css(".stop-strip").and have_css(".test h1", text: "Fluid level in the reservoir")
    expect(page).to have_css("summary", text: "BRAKE, FLUID; all others out")
    find(".outcome", text: "Below the mark").click
    expect(page).to have_css(".verdict.proven h1", text: "Proven: fluid level: brake fluid low")
    expect(page).to have_css(".verdict", text: "What counts as proof")
  end

  it "says in one touch whether the fault is there, and how often it was caught" do
    take_in(front: "Passive, two wires", rear: "Passive, two wires")
    scan("left front wheel speed sensor, signal implausible\n5DF1 rear right wheel speed sensor open circuit")
    expect(page).to have_css(".investigations li", count: 2).or have_css(".suspect-list")
    click_button "There now"
    expect(page).to have_css(".presence button[aria-pressed='true']", text: "There now")
    number = page.current_path[/J\d+/]
    visit "/jobs/#{number}/trace?test=rear_right.wiggle_joint.body_connector"
    expect(page).to have_css(".needs")
    find(".tries summary").click
    fill_in "caught", with: "2"
    fill_in "tries", with: "9"
    find(".outcome", text: "Jumps or drops").click
    expect(page).to have_css(".log-list", text: "jumps or drops when moved")
    entry = workshop.dossier(number).log.entries.last
    expect([entry.caught, entry["fault"]]).to eq([[2, 9], nil])
    expect(workshop.dossier(number).assessment.body.presence).to eq("present")
  end

  it "asks at once for what cannot be placed, and never calls it history" do
    take_in
    scan("71A3 function restricted")
    expect(page).to have_css(".codes", text: "not placed yet")
    visit "#{page.current_path[%r{/jobs/J\d+}]}/codes"
    expect(page).to have_css(".code-list details[open]").and have_content("not placed yet: which circuit is it?")
  end

  it "shows outcomes that add up to 100 percent, and a plan whose marks can be touched" do
    take_in
    scan("C0031-13 current")
    shares = all(".meanings .meter-cell").map { |cell| cell.text[/(\d+) %\z/, 1].to_i }
    expect(shares.sum).to eq(100)
    sizes = page.evaluate_script(<<~JS)
      [...document.querySelectorAll(".plan-figure a")].map((a) => a.getBoundingClientRect().height)
    JS
    expect(sizes.min).to be >= 36
    first(".plan-figure a[aria-label^='fluid level']").click
    expect(page).to have_css(".harness-title", text: "Fluid level")
  end
end
