# frozen_string_literal: true

# The simulated vehicle through its protocol, and the bench's instruments.
class PracticeFigures
  SHEET = { "name" => "bench", "stability" => "yes", "park_brake" => "caliper_motor", "sensors" => "passive" }.freeze
  MORE = %w[climate door_left door_right parking_aid lights front_camera radio seats].freeze
  PAIR = { "circuit" => "front_left", "a" => "signal@sensor_plug.far", "b" => "return@sensor_plug.far" }.freeze

  def initialize(figures)
    @figures = figures
  end

  def run
    scan
    instruments
  end

  private

  def scan
    vehicle = Gadwall::Simulator::VehicleUnderTest.new(SHEET, fitted: MORE, seed: 2).drive
    modules = vehicle.ecus.map(&:request_id)
    interface = Gadwall::Instruments::DiagnosticInterface.new(Gadwall::Simulator::Link.new(vehicle))
    @figures.median("full scan of #{modules.size} simulated modules", 1000, times: 3) { interface.scan(modules) }
  end

  def instruments
    exercise = Gadwall::Training::Drawn.of(["front_left.sensor.open"], SHEET, id: "b", level: 1, seed: 3, customer: "-")
    stand = Gadwall::Training::Stand.new(exercise)
    %w[chock lift stands].each { |kind| stand.act({ "kind" => kind }) }
    { "meter" => { "range" => "ohms" }, "scope" => { "rev_s" => "1" } }.each do |kind, more|
      act = { "kind" => kind, **PAIR, **more }
      @figures.median("#{kind} on the bench, read and drawn", 50) do
        stand.act(act)
        page = Web::Pages::BenchPage.new(nil, stand, choice: { circuit: "front_left", range: "ohms" })
        [page.figure, page.meter, page.trace]
      end
    end
  end
end
