# frozen_string_literal: true

require "web_helper"

# A customer's vehicle read by an adapter on a port: the port of the spec leads to a simulated bus, which the page and
# the routes know nothing of.
RSpec.describe "A customer's vehicle on the bus", :web do
  let(:vehicle) do
    sheet = { "name" => "Kestrel", "stability" => "yes" }
    Gadwall::Simulator::VehicleUnderTest.new(sheet, faults: ["front_left.sensor.open"], seed: 1).drive
  end

  # A port that is lost after so many frames.
  def port(lost_after: Float::INFINITY)
    bus = Gadwall::Simulator::Bus.new(vehicle, start: 1.0)
    Gadwall::Simulator::Port
      .new(bus)
      .tap do |made|
        made.define_singleton_method(:write) do |frame|
          raise Gadwall::Instruments::DiagnosticInterface::Lost, "The bus is gone." if (lost_after -= 1).negative?

          super(frame)
        end
      end
  end

  def plugged(number, **more)
    workshop.instance_variable_set(:@ports, ->(_name) { port(**more) })
    submit("/jobs/#{number}/codes", "/jobs/#{number}/interface/scan")
  end

  def scans(number)
    workshop.dossier(number).log.of("scan")
  end

  before do
    sign_in
    @signed_in = true
    submit("/settings", "/settings/interface", interface: "can0")
  end

  it "reads every module that answers into the pre-scan, and calls nothing of it simulated" do
    number = job
    pages = [get("/jobs/#{number}/codes").body]
    expect(pages.first).to include("Read all modules")
    plugged(number)
    expect(last_response.headers["location"]).to end_with("/jobs/#{number}/codes")
    scan = scans(number).last
    expect([scan.by_interface?, scan.responded]).to eq([true, vehicle.ecus.size])
    expect(scan.codes.map { |code| [code["code"], code["failure_type"]] }).to include(%w[C0031 13])
    pages << get("/jobs/#{number}/codes").body
    expect(pages.last).to include("read by the interface")
    expect(pages.grep(/SIMULATED/)).to eq([])
    expect(workshop.dossier(number).assessment.posterior.places.first.first).to start_with("front_left/")
  end

  it "keeps what was read when the bus is lost, and says so" do
    number = job
    plugged(number, lost_after: 25)
    expect([last_response.status, text]).to match([422, include("The bus is gone.").and(include("are kept"))])
    expect(scans(number).size).to eq(1)
    expect(scans(number).last.responded).to be_between(1, vehicle.ecus.size - 1)
  end

  it "says what to do where nobody answers, where the interface is not there, and where none is set" do
    number = job
    vehicle.set(key: "off")
    plugged(number)
    expect([last_response.status, text]).to match([422, include("Switch the key on")])
    workshop.instance_variable_set(:@ports, Web::Workshop::SOCKET_CAN)
    submit("/jobs/#{number}/codes", "/jobs/#{number}/interface/scan")
    expect([last_response.status, text]).to match([422, include("can0 cannot be used")])
    form = guards("/jobs/#{number}/codes", "/jobs/#{number}/interface/scan")
    submit("/settings", "/settings/interface", interface: "")
    post "/jobs/#{number}/interface/scan", form
    expect([last_response.status, text]).to match([422, include("Settings")])
    expect(scans(number)).to be_empty
    submit("/settings", "/settings/interface", interface: "../etc")
    expect(last_response.status).to eq(422)
  end
end
