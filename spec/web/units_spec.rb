# frozen_string_literal: true

require "web_helper"
require_relative "../../demo/workshop"

# The units that a workshop likes: shown and typed on every page and in reports, while the record keeps its own.
RSpec.describe "Units", :web do
  own = { pressure: "bar", torque: "N m", speed: "km/h", length: "mm", section: "mm2" }.freeze
  define_method(:own) { own }

  def like(**units)
    submit("/settings", "/settings/units", **own, **units)
  end

  it "turns quantities on pages and leaves what is no quantity" do
    like(torque: "lbf ft", pressure: "psi", speed: "mph")
    get "/sums?sum=bolt_clamp"
    expect(text).to include("Torque, lbf·ft").or include("Torque, lbf ft")
    get "/sums?sum=pump_duty&run=20&rest=5&flow=5"
    expect(text).to include("80 %")
  end

  it "computes a sum typed in the workshop's units as the same sum in the record's" do
    like(speed: "mph")
    get "/sums?sum=ring_frequency&speed=31.07&teeth=48&tyre=205/55R16"
    expect(text).to match(/345\.\d Hz/)
    get "/sums?sum=ring_speed&frequency=345.9&teeth=48&tyre=205/55R16"
    expect(text).to match(/31\.0[67] mph/)
  end

  it "takes a step's figure in the workshop's unit and keeps the record's" do
    Demo::Workshop.load(workshop, only: %w[02])
    number = workshop.summaries.open.first.number
    row = workshop.dossier(number).plan.next_row
    like(torque: "lbf ft")
    get "/jobs/#{number}/repair"
    expect(last_response.status).to eq(200)
    expect(row).not_to be_nil
  end

  # What somebody typed is his own, whatever it looks like: in pages, the report, its PDF and the case file.
  it "never touches words" do
    complaint = "Garage set it to 2.5 bar, disc 22 mm, 80 km/h"
    number = job(complaint: complaint, name: "A-12 mm-7", codes: "C0031-13 current")
    like(torque: "lbf ft", pressure: "psi", speed: "mph", length: "in", section: "AWG")
    submit("/jobs/#{number}/report", "/jobs/#{number}/notes", words: "part A-12 mm-7, bled at 1.5 bar")
    %w[codes trace vehicle report].each do |page|
      get "/jobs/#{number}/#{page}"
      expect([page, last_response.status, text]).to match([page, 200, include("A-12 mm-7")])
    end
    expect(text).to include(complaint).and include("part A-12 mm-7, bled at 1.5 bar")
    get "/jobs/#{number}/report.pdf"
    expect(pdf_text).to include(complaint).and include("A-12 mm-7")
    get "/"
    expect(text).to include("A-12 mm-7")
  end

  it "shows what was signed in the workshop's units, on the page and in the report" do
    Demo::Workshop.load(workshop, only: %w[08])
    number = workshop.summaries.open.first.number
    sign_in
    get "/jobs/#{number}/report"
    torque = text[/torque set: (\d+) N·m/i, 1]
    expect(torque).not_to be_nil
    like(torque: "lbf ft")
    get "/jobs/#{number}/report"
    expect(text).to include("#{(torque.to_f / 1.3558).round(1)} lbf·ft").or include(
           "#{(torque.to_f / 1.3558).round} lbf"
         )
  end

  def pdf_text
    Tempfile.create(%w[report .pdf]) do |file|
      file.binmode
      file.write(last_response.body)
      file.flush
      `pdftotext -layout #{file.path} - 2>/dev/null`.gsub(/\s+/, " ")
    end
  end

  it "refuses a unit that there is none of" do
    like(torque: "stone")
    expect(last_response.status).to eq(422)
  end
end

RSpec.describe Gadwall::Quantity::Preferences do
  let(:imperial) do
    described_class.new(
      "pressure" => "psi",
      "torque" => "lbf ft",
      "speed" => "mph",
      "length" => "in",
      "section" => "AWG"
    )
  end

  # 110 N m = 81.1 lbf ft; 1 bar = 14.50 psi; 50 km/h = 31.07 mph; 1.5 mm2 lies between AWG 16 and 15 (ISO 80000,
  # ASTM B258, from memory).
  cases = {
    "Torque 110 N·m" => "Torque 81.1 lbf·ft",
    "0 to 5 bar" => "0 to 72.5 psi",
    "drive at 50 km/h" => "drive at 31.1 mph",
    "1.5 mm² wire, 25.4 mm long" => "AWG 15 wire, 1 in long",
    "22 mm/s, 5 barrels, J102" => "22 mm/s, 5 barrels, J102"
  }
  cases.each { |text, shown| it("shows '#{text}' as '#{shown}'") { expect(imperial.in_text(text)).to eq(shown) } }

  it "turns the texts of a drawing and leaves its tags alone" do
    drawing = "<text aria-label=\"5 bar\">5 bar</text>"
    expect(imperial.in_svg(drawing)).to eq("<text aria-label=\"5 bar\">72.5 psi</text>")
  end

  it "brings back what it shows (law, seeded)" do
    random = Random.new(2)
    %w[bar km/h mm]
      .push("N m")
      .each do |unit|
        20.times do
          value = random.rand(0.5..300.0).round(2)
          shown = imperial.shown(value, unit)
          expect(imperial.kept(shown.to_s, unit).to_f).to be_within(value * 1e-4).of(value)
          expect(imperial.kept("#{value} #{unit}", unit).to_f).to eq(value)
        end
      end
  end

  it "leaves everything as it is where the workshop likes the record's units" do
    expect([described_class.new.in_text("5 bar"), described_class.new.kept("5", "bar")]).to eq(["5 bar", "5"])
  end
end
