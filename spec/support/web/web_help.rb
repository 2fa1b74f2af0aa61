# frozen_string_literal: true

require "securerandom"
require "tmpdir"

# Driving the application without a browser: forms as a browser sends them, guards and all.
module WebHelp
  include Rack::Test::Methods

  # A run of the specs begins on one Wednesday at ten in the morning, whatever the machine's own day, hour and zone: no
  # spec depends on when and where it runs, and no day ends under its hands. It goes on as fast as time does.
  DAY = Time.new(2026, 11, 25, 10)
  BEGUN = Process.clock_gettime(Process::CLOCK_MONOTONIC)
  CLOCK = -> { (DAY + (Process.clock_gettime(Process::CLOCK_MONOTONIC) - BEGUN)).utc }
  SHARED = CoreHelp::MODELS # circuit models for every application of the run: they never change
  PERSON = "N. Ashgrove"
  # What the check-in form is filled in with.
  CHECK_IN = {
    name: "Spec van",
    customer: "A. Reed",
    complaint: "lamp on",
    layout: "four_sensors",
    front: "passive",
    rear: "passive",
    driver_side: "left",
    power: "combustion",
    booster: "vacuum",
    park_brake: "lever"
  }.freeze

  # An application with a database in memory, or at a path.
  def self.application(path = nil, **more)
    Web::App.for_database(path, secret: "s" * 64, models: SHARED, clock: CLOCK, **more)
  end

  def app
    @app ||= WebHelp.application
  end

  def workshop
    app.workshop
  end

  # What rack-test calls this machine.
  def rack_mock_session_host
    "localhost"
  end

  def build_rack_test_session(name)
    super.tap { |session| session.instance_variable_set(:@default_host, "localhost") }
  end

  # Says who is at the bench, as every browser does once.
  def sign_in(name = PERSON)
    get "/"
    form = Nokogiri.HTML5(last_response.body).at_css("form[action='/person']") or return
    post "/person", hidden(form).merge("name" => name)
  end

  # The hidden fields of the first form that posts to `action`.
  def guards(page, action)
    get page
    form = Nokogiri.HTML5(last_response.body).css("form").find { |each| each["action"] == action } or
      raise "no form for #{action} on #{page}: #{last_response.status}"
    hidden(form)
  end

  def hidden(form)
    form.css("input[type=hidden]").to_h { |input| [input["name"], input["value"]] }
  end

  def submit(page, action, **fields)
    sign_in unless @signed_in
    @signed_in = true
    post action, guards(page, action).merge(fields.transform_keys(&:to_s))
  end

  def text
    Nokogiri.HTML5(last_response.body).text.gsub(/\s+/, " ")
  end

  # A job checked in, with a pre-scan when codes are given. Returns its number.
  def job(codes: nil, **more)
    fields = CHECK_IN.merge(more)
    submit("/jobs/new", "/jobs", **fields)
    raise text unless last_response.redirect?

    number = last_response.location[/J\d+/]
    submit("/jobs/#{number}/codes", "/jobs/#{number}/codes", codes: codes, answered: "yes") if codes
    number
  end

  def read(number, test, value)
    submit("/jobs/#{number}/trace?test=#{test}", "/jobs/#{number}/readings", reading: value, result: value)
  end

  # Does an act without a page. Returns Web::Workshop::Performed.
  def perform(number, act, **values)
    workshop.perform(number, act, values, by: PERSON) { |job| "/jobs/#{job.number}" }
  end

  def entries(number)
    workshop.dossier(number).log.entries
  end
end

RSpec.configure { |config| config.include WebHelp, :web }
