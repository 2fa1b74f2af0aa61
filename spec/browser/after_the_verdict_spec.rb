# frozen_string_literal: true

require "browser_helper"

# Four jobs of the demo through what follows the verdict, each differently.
RSpec.describe "After the verdict", :browser do
  def load(number)
    Demo::Workshop.load(workshop, only: [number])
    @number = workshop.jobs.all.first.number
    sign_in
  end

  it "a trailer modulator: parameters kept, compared three ways, written, tested at the end of the line" do
    load("13")
    visit "/jobs/#{@number}/repair"
    expect(page).to have_css(".hand-title", text: "Write identity, wheel size, teeth and parameters")
    visit "/jobs/#{@number}/parameters"
    expect(page).to have_css(".differs", text: "lift axle")
    choose "new module", allow_label_click: true
    fill_in "text", with: "axles = 3\nlift axle = axle 1\nteeth = 100"
    click_button "Keep"
    expect(page).to have_css("th", text: "new module")
    expect(page).to have_css(".differs", text: "axle 1")
    click_link "To the repair"
    find(".hand-form .act.big").click
    find(".hand-form .act.big").click if has_button?("Sign off", wait: 1)
    sign_repair(by_hand: 0, upto: "end_of_line")
    expect(page).to have_css(".hand-title", text: "end-of-line test of the trailer")
    fill_in "figures[at_two_bar]", with: "9"
    find(".hand-form .act.big").click
    expect(page).to have_css(".field-error", text: /from 0.5 to 3.5 bar|tool/)
  end

  it "a pressure unit on a hybrid: 28 V is not 'no voltage', and says why" do
    load("14")
    visit "/jobs/#{@number}/repair"
    expect(page).to have_css(".hand.hold .hand-title", text: "Verify absence of voltage")
    expect(page).to have_css(".caution", text: "high voltage")
    figures = Demo::SignOff.values(step_at_hand.step)[:figures]
    figures.merge("plus_minus" => "28").each { |id, text| fill_in "figures[#{id}]", with: text }
    find(".hand-form .act.big").click
    expect(page).to have_css(".field-error", text: "Stop: something still feeds it")
    expect(page).to have_field("figures[plus_minus]", with: "28")
    expect(page).to have_no_text("Not needed")
    fill_in "figures[plus_minus]", with: "1"
    find(".hand-form .act.big").click
    expect(page).to have_css(".hand-title", text: "Lift the vehicle")
    visit "/jobs/#{@number}/repair?step=lines_open"
    expect(page).to have_text("Locked until 'Lift the vehicle, set stands' is signed off.")
  end

  it "a park brake harness: proven by a gate, a composed drive and its monitors, and handed over" do
    load("15")
    visit "/jobs/#{@number}/proof"
    expect(page).to have_css(".drive-strip")
    click_button "Hand over and print"
    expect(page).to have_css("#error-handover", text: "Before it leaves the yard")
    form = first("form[action$='/proof/repeat']")
    form.first("button").click
    expect(page).to have_css(".proof-item.good", text: "Confirming test, repeated")
    prove_by_hand
    fill_in "words", with: "Bolts again after 100 km."
    click_button "Hand over and print"
    expect(page).to have_css(".report-verdict", text: /park brake|EPB/i)
    expect(page).to have_css(".report-drawing svg", minimum: 2)
    expect(page).to have_link("PDF")
  end

  it "a re-flowed module on its watch: on the bay until its result is entered" do
    load("16")
    visit "/"
    expect(page).to have_css(".watch-list li", text: /day \d of 7|enter the result/)
    find(".watch-list a", match: :first).click
    expect(page).to have_css(".report-warning", text: "Temporary repair")
    click_button "Fault stayed away"
    visit "/"
    expect(page).to have_no_css(".watch-list li", text: @number)
  end
end
