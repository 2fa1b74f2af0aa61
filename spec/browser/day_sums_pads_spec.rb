# frozen_string_literal: true

require "browser_helper"
require_relative "../../demo/workshop"

# The day by key and by hand, sums from the keyboard, and a pad sheet that finds a seized slide.
RSpec.describe "Day, sums and pads", :browser do
  PEOPLE = ["N. Ashgrove; high_voltage; 00:00-47:00", "O. Fennel;; 00:00-47:00"].freeze

  before(:all) do
    @shop = BrowserHelp.application.workshop
    Demo::Workshop.load(@shop, only: %w[02 14 15]) unless ["pick-up", "Taxi hybrid"].all? { |name| open?(name) }
    staff(PEOPLE)
  end

  def open?(name)
    @shop.summaries.open.any? { |each| each.name.include?(name) }
  end

  def staff(people)
    lines = { "start" => "00:00", "people" => people, "places" => ["Lift 1; lift"] }
    @shop.days.save_hours(Gadwall::Scheduling::WorkshopHours.new(lines), by: "N. Ashgrove", at: @shop.now.iso8601)
  end

  def slot_of(page, id)
    page.find("##{id}")["data-from"].to_i
  end

  # The last piece of work that more than one person may do; of work that one alone may do, nobody else's key moves it.
  def late_slot(page)
    page.all("[data-step]").select { |slot| able(slot).size > 1 }.max_by { |slot| slot["data-from"].to_i }["id"]
  end

  # A key on a piece of work.
  def press(key, id)
    page.execute_script("document.getElementById(arguments[0]).focus()", id)
    page.driver.browser.keyboard.type(key)
  end

  def able(slot)
    JSON.parse(slot["data-may"])
  end

  it "moves a piece of work by keyboard, to a quarter of an hour later and to somebody else" do
    sign_in
    visit "/day"
    id = late_slot(page)
    from = slot_of(page, id)
    who = page.find("##{id}")["data-uses"]
    press(:right, id)
    page.assert_selector "##{id}[data-from='#{from + 15}']"
    press(who == "N. Ashgrove" ? :down : :up, id)
    page.assert_selector "##{id}:not([data-uses='#{who}'])"
    press(:backspace, id)
    page.assert_no_selector ".slot.fixed"
  end

  it "moves a piece of work by dragging, and plans the rest around it" do
    sign_in
    visit "/day"
    id = late_slot(page)
    from = slot_of(page, id)
    page.execute_script(<<~JS, id)
      const slot = document.getElementById(arguments[0]);
      const box = slot.getBoundingClientRect();
      const at = (type, x) => slot.dispatchEvent(new PointerEvent(type, {
        bubbles: true, pointerId: 1, clientX: x, clientY: box.y + 5 }));
      slot.setPointerCapture = () => {};
      at("pointerdown", box.x + 2);
      at("pointermove", box.x + 62);
      at("pointerup", box.x + 82);
    JS
    page.assert_selector "##{id}.fixed"
    expect(slot_of(page, id)).to be > from
    press(:backspace, id)
    page.assert_no_selector "##{id}.fixed"
  end

  it "says who may do a piece of work that asks for a licence, and leaves it where it is" do
    sign_in
    visit "/day"
    alone = page.all("[data-step]").find { |slot| able(slot).size == 1 }
    id = alone["id"]
    press(:down, id)
    page.assert_selector ".day-said", text: "N. Ashgrove may"
    page.assert_selector "##{id}[data-uses='#{able(alone).first}']"
  end

  it "finds five sums from the keyboard, and computes as one types" do
    sign_in
    wanted = {
      "voltage drop" => [
        "Voltage drop of a wire run",
        { "Length there and back, m" => "7", "Cross-section, mm²" => "1.5", "Current, A" => "15" },
        "1.334"
      ],
      "parallel" => ["Resistances in parallel", { "Resistances in ohm" => "120 140" }, "64.62"],
      "slope" => [
        "Park brake hold on a slope",
        {
          "Mass, kg" => "1800",
          "Slope, %" => "20",
          "Tyre" => "205/55R16",
          "Braked wheels" => "2",
          "Pad friction" => "0.38",
          "Effective disc radius, mm" => "120"
        },
        "3462"
      ],
      "status byte" => ["Status byte to words", { "Status byte" => "28" }, "history"],
      "clean trips" => [
        "Clean trips until a repair is believed",
        { "Trips on which it showed, of a hundred, %" => "25" },
        "11"
      ]
    }
    wanted.each do |words, (name, fields, result)|
      visit "/sums"
      fill_in "Which sum?", with: words
      page.assert_selector "#sum-list a", text: name
      page.assert_no_selector "#sum-list a", text: "Chance after a test"
      page.execute_script(<<~JS, name)
        [...document.querySelectorAll("#sum-list a")].find((link) => link.textContent === arguments[0]).focus();
      JS
      page.driver.browser.keyboard.type(:enter)
      page.assert_selector "h1", text: name
      page.assert_no_selector ".sum-number"
      fields.each { |field, typed| fill_in field, with: typed }
      page.assert_selector ".sum-number", text: result
    end
    fill_in "Trust, %", with: "always"
    page.assert_selector ".field-error", text: "a number from 50"
  end

  it "takes a sum into a job as a note, with one touch" do
    sign_in
    visit "/sums?sum=pump_duty&run=20&rest=5&flow=5"
    number = page.find("#take-job").value
    click_button "Note it"
    page.assert_selector ".lead", text: number
    expect(@shop.dossier(number).log.of("note").last.words).to start_with("Pump duty and leak: 80 %")
  end

  it "finds a seized slide on a pad sheet, and draws the four corners" do
    sign_in
    number = @shop.summaries.open.first.number
    visit "/jobs/#{number}/pads"
    {
      "Front left, inner" => "8.5",
      "Front left, outer" => "13.6",
      "Front right, inner" => "13.4",
      "Front right, outer" => "13.7"
    }.each { |field, mm| fill_in field, with: mm }
    fill_in "Distance on the clock, km", with: "52000"
    click_button "Save readings"
    page.assert_selector ".pads-findings li", text: "guide pins seized"
    page.assert_selector ".pads-lining", count: 4
    expect(page).to have_text("3.5 mm left, front left")
    fill_in "Front left, inner", with: "thin"
    click_button "Save readings"
    page.assert_selector ".field-error", text: "a number"
    expect(page.find_field("Front left, inner").value).to eq("thin")
  end

  it "says on the job list what comes next for who is at the bench" do
    sign_in
    staff(["N. Ashgrove; high_voltage; 00:00-47:00"])
    visit "/day"
    page.assert_selector "[data-step]"
    visit "/"
    page.assert_selector ".next-strip", text: "Next for you"
  ensure
    staff(PEOPLE)
  end

  it "plans again when a step overruns, and says in a sentence what that moved" do
    sign_in
    begun = WebHelp::CLOCK.call
    later = begun + (2 * 3600)
    allow(@shop).to receive(:now).and_return(begun)
    visit "/day"
    click_button "Agreed" if page.has_css?(".day-change", wait: 1)
    page.assert_no_selector ".day-change"
    first = page.all("[data-step]").map { |slot| slot["data-from"].to_i }.min
    allow(@shop).to receive(:now).and_return(later)
    visit "/day"
    page.assert_selector ".day-change", text: /Changed: .*done \d\d:\d\d instead of \d\d:\d\d/
    expect(page.all("[data-step]").map { |slot| slot["data-from"].to_i }.min).to be >= first + 115
    click_button "Agreed"
    page.assert_no_selector ".day-change"
  end
end
