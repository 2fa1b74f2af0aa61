# frozen_string_literal: true

require "securerandom"
require "tmpdir"

# Driving the application without a browser: forms as a browser sends them, guards and all.
module WebHelp
  include Rack::Test::Methods

  SHARED = {} # rubocop:disable Style/MutableConstant -- compiled line models for every application of the run

  def app
    @app ||= Web::App.for_database(nil, secret: "s" * 64).tap { |app| app.desk.instance_variable_set(:@models, SHARED) }
  end

  def desk
    app.desk
  end

  # The hidden fields of the first form that posts to `action`.
  def guards(page, action)
    get page
    form = Nokogiri.HTML5(last_response.body).css("form").find { |each| each["action"] == action } or
      raise "no form for #{action} on #{page}: #{last_response.status}"
    form.css("input[type=hidden]").to_h { |input| [input["name"], input["value"]] }
  end

  def submit(page, action, **fields)
    post action, guards(page, action).merge(fields.transform_keys(&:to_s))
  end

  def text
    Nokogiri.HTML5(last_response.body).text.gsub(/\s+/, " ")
  end

  # A job taken in, with a scan when codes are given. Returns its number.
  def job(codes: nil, **more)
    fields = {
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
    }.merge(more)
    submit("/jobs/new", "/jobs", **fields)
    raise text unless last_response.redirect?

    number = last_response.location[/J\d+/]
    submit("/jobs/#{number}/codes", "/jobs/#{number}/codes", codes: codes, answered: "yes") if codes
    number
  end

  def read(number, test, value)
    submit("/jobs/#{number}/trace?test=#{test}", "/jobs/#{number}/readings", reading: value, result: value)
  end

  def entries(number)
    desk.entries.for_job(desk.jobs.find(number))
  end
end

RSpec.configure { |config| config.include WebHelp, web: true }
