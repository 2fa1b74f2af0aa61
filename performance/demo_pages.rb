# frozen_string_literal: true

require "nokogiri"
require "rack/mock"
require_relative "figures"
require_relative "../app/boot"
require_relative "../demo/workshop"

# The demo's pages and a reading's round trip through the application, without a network.
class DemoPages
  PATHS = %w[/ /jobs/J103/trace /jobs/J105/decide /jobs/J101/report].freeze
  BY = "Bench"

  def initialize(figures)
    @figures = figures
  end

  def run
    app = Web::App.for_database(nil)
    @workshop = app.workshop
    Demo::Workshop.load(@workshop)
    @request = Rack::MockRequest.new(app)
    PATHS.each { |path| @figures.median("page #{path}", 100) { get(path) } }
    @figures.median("a reading's round trip (check, assess, write, page)", 100) { reading }
  end

  private

  def get(path)
    answer = @request.get(path, "HTTP_HOST" => "127.0.0.1")
    raise "#{path}: #{answer.status}" unless answer.status == 200
  end

  def reading
    values = { test: "front_right.insulation.sensor_plug", typed: "OL", phase: "before" }
    done = @workshop.perform("J103", Gadwall::Job::Acts::TakeReading, values, by: BY) { "/jobs/J103/trace" }
    raise "reading: #{done.errors}" unless done.ok?

    get(done.landing)
  end
end
