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

  def sign_in
    visit "/"
    return unless has_field?("person-name", wait: 0)

    fill_in "person-name", with: WebHelp::PERSON
    find(".person-ask").click_button("Save")
    expect(page).to have_css(".person summary", text: WebHelp::PERSON)
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
    seen = all(".log-row").size
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
