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

  it "takes a look that settles it for settled, and says what counts as proof" do
    take_in(front: "Passive, two wires", rear: "Passive, two wires")
    scan("C0031-62 current\nC0037 history")
    look("front_left.look_ring", "No ring there")
    expect(page).to have_css(".suspects, .suspect-list", text: /ring/)
    look("front_left.resistance.module_plug", nil, type: "1.1k")
    expect(page).to have_css(".status-now", text: /tone ring/)
  end

  it "counts the modules that responded against the build list, and asks for those that nobody named" do
    take_in
    fill_in "responded", with: "11"
    fill_in "expected", with: "12"
    scan("U0121 current")
    visit "#{job_path}/codes"
    expect(page).to have_content("11 of 12 modules responded; 1 not named yet")
  end

  it "keeps the count for the next time that the vehicle comes" do
    take_in(name: "Returning van", plate: "LW 77 K")
    fill_in "responded", with: "9"
    scan("")
    take_in(name: "Returning van", plate: "LW 77 K")
    expect(page).to have_content("9 modules responded")
    expect(find_field("expected").value).to eq("9")
  end

  it "looks once at a ground point that two circuits share" do
    take_in
    scan("C0020 pump motor circuit\nU3003-16 current")
    look("abs_module.look_ground", "Rust, paint or green under the eyelet")
    told = workshop.dossier(number).assessment.body.observations.map { |each| each.circuit.id }
    expect(told).to contain_exactly("abs_module", "return_pump")
    expect(page).to have_css(".suspect-list, .suspects", text: /ground point/)
  end

  it "tries A against B: cleaned, and the warning went" do
    take_in(front: "Passive, two wires", rear: "Passive, two wires")
    scan("C0031-13 current")
    look("front_left.look_joint.sensor_plug", "Corroded or loose terminals")
    look("front_left.reseat.sensor_plug", "Warning gone")
    expect(workshop.dossier(number).assessment.verdict.suspect.place).to eq("front_left/sensor_plug")
  end

  it "asks how the vehicle is built where it matters, in one touch, and builds the circuit so" do
    take_in(front: "Active, two wires", rear: "Active, two wires")
    scan("C0031-13 current")
    expect(page).to have_css(".builds h2", text: "How is this vehicle built?")
    2.times { first(".builds button").click }
    find(".builds button", text: "Part of the sensor, connector inside the body").click
    expect(page).to have_css("#trace")
    connectors = workshop.dossier(number).system.circuit_named("front_left").harness.connectors.map(&:id)
    expect(connectors).to eq(%w[module_plug body_connector])
  end

  it "judges a feed by the battery as it is, and takes what a module feeds as it comes" do
    take_in
    scan("C0031-13 current")
    look("front_left.feed_volts.sensor_plug", nil, type: "8.1")
    expect(page).to have_no_css(".status .field-error")
    look("front_right.feed_volts.sensor_plug", nil, type: "8.0")
    expect(workshop.dossier(number).assessment.weights.map(&:outlier_chance).max).to be < 0.3
  end

  def number
    page.current_path[/J\d+/]
  end

  def job_path
    "/jobs/#{number}"
  end

  # A test chosen by hand, with the outcome touched or the figure typed.
  def look(test, outcome, type: nil)
    visit "#{job_path}/trace?test=#{test}"
    seen = all(".log-row", wait: 0).size
    if type
      fill_in "reading", with: type
      find("#reading").send_keys(:enter)
    else
      first(".outcome", text: outcome).click
    end
    expect(page).to have_css(".log-row", minimum: seen + 1)
  end
end
