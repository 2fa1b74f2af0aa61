# frozen_string_literal: true

require "web_helper"
require "capybara/rspec"
require "capybara/cuprite"

CHROMIUM_FLAGS = %w[
  no-sandbox
  disable-gpu
  disable-quic
  no-first-run
  disable-background-networking
  disable-component-update
  disable-sync
].freeze

Capybara.register_driver(:chromium) do |app|
  Capybara::Cuprite::Driver.new(
    app,
    window_size: [1280, 800],
    browser_path: ENV["CHROMIUM"] || "/usr/bin/chromium",
    browser_options: CHROMIUM_FLAGS.to_h { |flag| [flag, nil] },
    process_timeout: 60,
    timeout: 60,
    pending_connection_errors: false, # a starved machine is slow with fonts; what a page shows is asked below
    js_errors: true
  )
end
Capybara.default_driver = :chromium
Capybara.javascript_driver = :chromium
Capybara.server = :puma, { Silent: true, Threads: "0:4" }
Capybara.default_max_wait_time = 30 # a busy machine is slow; a sound page never takes it
Capybara.enable_aria_label = true
Capybara.save_path = File.join(Dir.tmpdir, "gadwall-capybara")

# Driving the pages as a hand does.
module BrowserHelp
  def self.application
    @application ||= WebHelp.application
  end

  def workshop
    BrowserHelp.application.workshop
  end

  def sign_in(name = WebHelp::PERSON)
    visit "/"
    find(".person, .person-ask") # a starved machine shows a page late
    return unless has_css?(".person-ask", wait: 0)

    fill_in "person-name", with: name
    find(".person-ask").click_button("Save")
    expect(page).to have_css(".person summary", text: name)
  end

  def take_in(front: "Active, two wires", rear: "Active, two wires", name: "Spec van", plate: "", tick: [])
    sign_in
    visit "/jobs/new"
    fill_in "name", with: name
    fill_in "plate", with: plate
    fill_in "customer", with: "A. Reed"
    fill_in "complaint", with: "ABS lamp on"
    select front, from: "front"
    select rear, from: "rear"
    tick.each { |text| check text, allow_label_click: true }
    click_button "Check in, start pre-scan"
    expect(page).to have_css("h1", text: "Pre-scan")
    @number = page.current_path[/J\d+/]
  end

  def scan(codes)
    fill_in "codes", with: codes
    choose "Yes", allow_label_click: true
    click_button "Save pre-scan"
    expect(page).to have_css("#trace")
  end

  # The recommended test done on a simulated vehicle, typed and entered by keyboard alone.
  def do_next_test(vehicle)
    system = workshop.dossier(@number).log.system
    id = find("form.reading input[name=test]", visible: false).value
    circuit, test = system.test(id)
    result = vehicle.perform(circuit, test)
    seen = all(".log-row", wait: 0).size
    if test.numeric?
      active = page.evaluate_script("document.activeElement.id")
      expect(active).to eq("reading")
      type(result.to_s.delete_suffix("ohm").delete(" "), :Enter)
    else
      type((test.outcomes.keys.index(result) + 1).to_s)
    end
    expect(page).to have_css(".log-row", count: seen + 1)
    id
  end

  # The step that the repair page shows, as the plan has it: Repair::Progress::Row.
  def step_at_hand
    id = find(".hand")["id"]
    workshop.dossier(@number).plan.row(id)
  end

  # Signs the step at hand by its form, with sound figures; a wait was begun long enough ago. figures: {id => text} of
  # its own.
  def sign_at_hand(figures = {})
    row = step_at_hand
    if row.step.wait_minutes
      wait_out(row)
      visit page.current_path
    end
    given = Demo::SignOff.values(row.step)
    own = given[:figures].merge(figures.slice(*given[:figures].keys))
    own.each { |id, text| fill_in "figures[#{id}]", with: text }
    given[:ticks].each { |id| find("input[name='ticks[]'][value='#{id}']").check }
    fill_in "tool", with: given[:tool] if row.step.set_up?
    find(".hand-form .act.big").click
    expect(page).to have_no_css(".hand[id='#{row.id}']:not(.done)")
  end

  # Its timer, begun long enough ago; the page as it is then.
  def wait_out(row)
    ago = workshop.now - ((row.step.wait_minutes + 1) * 60)
    workshop.perform(@number, Gadwall::Job::Acts::BeginWait, { step: row.id }, by: WebHelp::PERSON, at: ago) { "/" }
  end

  # Signs every step up to one, or to the end of the repair: the first few by hand, the rest by their acts. figures: {id
  # => text} of its own.
  def sign_repair(figures: {}, upto: nil, by_hand: 2)
    by_hand.times { sign_at_hand(figures) }
    loop do
      row = workshop.dossier(@number).plan.repair.find { |each| !each.done? }
      break if row.nil? || row.id == upto

      sign_by_act(row, figures)
    end
    visit "/jobs/#{@number}/repair"
  end

  def sign_by_act(row, figures)
    wait_out(row) if row.step.wait_minutes
    given = Demo::SignOff.values(row.step)
    own = given[:figures].merge(figures.slice(*given[:figures].keys))
    values = { step: row.id, **given, figures: own }
    done = workshop.perform(@number, Gadwall::Job::Acts::SignStep, values, by: WebHelp::PERSON) { "/" }
    raise done.errors.to_s unless done.ok?
  end

  # The proof but for its scan and the confirming test: the gate of the yard, the legs, what is signed at the end.
  def prove_by_hand
    until (open = workshop.dossier(@number).proof.items.reject(&:good).find { |item| item.leg || item.row }).nil?
      open.leg ? drive_by_thumb : sign_item(open)
      done = -> { workshop.dossier(@number).proof.items.find { |each| each.id == open.id }.good }
      expect(page).to(satisfy { 50.times.any? { done.call || !sleep(0.1) } })
      visit page.current_path
    end
  end

  # Leg by leg on the card, and one signature.
  def drive_by_thumb
    within ".drive-card.one-at-a-time" do
      click_button "Done" while has_button?("Done", wait: 0)
      check "Status read: all ran, but for those named"
      click_button "Sign off the drive"
    end
  end

  def sign_item(open)
    item = find(".proof-item.todo", text: open.title, match: :first)
    item.all("input[type=checkbox]", wait: 0).each(&:check)
    fill_item(item, open.row.step)
    item.click_button("Sign off")
  end

  def fill_item(item, step)
    Demo::SignOff.values(step)[:figures].each { |id, text| item.fill_in "figures[#{id}]", with: text }
  end

  def type(*keys)
    page.driver.browser.keyboard.type(*keys)
  end

  def settle(vehicle, most: 14)
    tests = []
    tests << do_next_test(vehicle) until has_css?(".verdict.proven", wait: 0) || tests.size >= most
    tests
  end

  def leaders
    all(".suspect[data-place] .suspect-figure strong").map(&:text)
  end
end

RSpec.configure do |config|
  config.include Capybara::DSL, browser: true
  config.include Capybara::RSpecMatchers, browser: true
  config.include BrowserHelp, browser: true
  config.before(:each, :browser) { Capybara.app = BrowserHelp.application }
  config.after(:each, :browser) { Capybara.reset_sessions! }
end
