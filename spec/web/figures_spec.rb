# frozen_string_literal: true

require "web_helper"

# Drawings and words, as pure functions of data.
RSpec.describe Web::Svg do
  let(:line) { system_with("passive").circuits.first.harness }

  def figure(**more)
    Nokogiri.XML(
      Web::Svg::HarnessFigure.new(
        line,
        title: "front left",
        place_states: more.delete(:place_states) || {},
        **more
      ).to_s
    ).remove_namespaces!
  end

  it "draws the line in the order of the hand, with names, pins and colours" do
    names = figure.css(".connector-name").sort_by { |text| text["x"].to_f }.map(&:text)
    expect(names).to eq(["module connector", "body connector", "sensor connector"])
    expect(figure.css(".place-note").map(&:text)).to include("pins 21, 22", "1.1 m, flexes")
    expect(figure.css(".wire-name").map(&:text)).to include("signal white", "return brown")
  end

  it "tells sound, suspect and unknown by line, mark and word, not by colour alone" do
    drawn = figure(place_states: { "sensor" => ["ok", 0.0], "body_connector" => ["suspect", 0.62] })
    expect(drawn.css(".place-mark.ok").map(&:text)).to eq(["OK"])
    expect(drawn.css(".place-mark.suspect").map(&:text)).to eq(["62 %"])
    expect(
      [drawn.css("path.mark.ok").size, drawn.css("path.mark.suspect").size, drawn.css("circle.mark.unknown").size]
    ).to eq([1, 1, 6])
    expect(drawn.at_css("desc").text).to include("sensor: OK").and include("body connector: suspect").and include(
                  "tone ring: not tested"
                )
  end

  it "never says 100 percent" do
    expect(figure(place_states: { "sensor" => ["suspect", 0.9999] }).at_css(".place-mark.suspect").text).to eq("> 99 %")
  end

  it "puts the probes where the test wants them, and takes its connectors apart" do
    drawn = figure(probes: %w[signal@sensor_plug.far ground], disconnected: ["sensor_plug"])
    expect(drawn.css(".probe-number").map(&:text)).to eq(%w[1 2])
    expect(drawn.css(".place-note").map(&:text)).to include("pins 1, 2 · disconnected")
    tips = drawn.css(".probe-tip").map { |tip| tip["cx"].to_f }
    expect(tips[0]).to be > 900
    expect(tips[1]).to be < 200
  end

  it "draws any number of connectors within its frame" do
    connectors = (0..6).map { |i| { "id" => "j#{i}" } }
    long =
      Gadwall::Circuits::Harness.new(
        catalogue.circuits["wheel_speed_passive"],
        { "joints" => connectors, "sections" => [{ "length_m" => 1, "cross_section_mm2" => 0.5 }] * 6 },
        catalogue
      )
    xs =
      Nokogiri
        .XML(Web::Svg::HarnessFigure.new(long, title: "x", place_states: {}).to_s)
        .remove_namespaces!
        .css(".connector-name")
        .map { |text| text["x"].to_f }
    expect(xs).to eq(xs.sort)
    expect(xs.last).to be < Web::Svg::HarnessFigure::WIDTH
  end

  it "is made of elements that a browser draws, on every page of the demo" do
    known = %w[svg a circle defs desc g line path pattern polygon polyline rect text title tspan]
    app = WebHelp.application
    Demo::Workshop.load(app.workshop)
    request = Rack::MockRequest.new(app)
    pages = app.workshop.jobs.all.flat_map { |job| %w[trace vehicle].map { |page| "/jobs/#{job.number}/#{page}" } }
    names =
      pages.flat_map do |page|
        body = request.get(page, "HTTP_HOST" => "localhost").body
        Nokogiri.HTML5(body).css("svg, svg *").map(&:name)
      end
    expect(names.uniq - known).to eq([])
    expect(names.tally["line"]).to be > 100
  end

  it "draws every circuit of the trade: each wire, connector, part and member by name, within its frame" do
    catalogue.circuits.each_key do |id|
      line = Gadwall::Circuits::Harness.new(catalogue.circuits[id], {}, catalogue)
      drawn = Nokogiri.XML(Web::Svg::HarnessFigure.new(line, title: id, place_states: {}).to_s).remove_namespaces!
      width, height = drawn.at_css("svg")["viewBox"].split.last(2).map(&:to_f)
      expect(drawn.css(".connector-name").map(&:text)).to eq(line.connectors.map(&:name)), id
      expect(drawn.css(".wire-name").size).to eq(line.wires.size * line.sections.size), id
      expect(drawn.css(".member-name").map(&:text)).to eq(line.modules.map { |name, _| line.module_name(name) }), id
      expect(drawn.css(".extra-name").map(&:text)).to eq(line.ring? ? [] : line.extras.map { |extra| extra["name"] }),
      id
      expect(drawn.css("text").map { |text| [text["x"].to_f, text["y"].to_f] }).to all(
        satisfy { |x, y| x.between?(0, width) && y.between?(0, height) }
      ),
      id
    end
  end

  it "keeps the places of a vehicle's circuits apart on the plan" do
    rows = catalogue.fitted.values.reject { |row| row["id"].match?(/park_brake_unit|epb_module|trailer_brake/) }
    near = rows.combination(2).select { |a, b| Math.hypot(a["at"][0] - b["at"][0], a["at"][1] - b["at"][1]) < 20 }
    expect(near.map { |a, b| [a["id"], b["id"]] }).to eq([])
  end

  it "escapes what stands in names" do
    nasty =
      Gadwall::Circuits::Harness.new(
        catalogue.circuits["wheel_speed_passive"],
        {
          "joints" => [{ "id" => "a", "name" => "<b>\"&" }, { "id" => "b" }],
          "sections" => [{ "length_m" => 1, "cross_section_mm2" => 0.5 }]
        },
        catalogue
      )
    expect(Web::Svg::HarnessFigure.new(nasty, title: "<i>", place_states: {}).to_s).to include("&lt;b&gt;").and include(
            "&lt;i&gt;"
          )
  end

  it "shows each corner's share in the plan, with the chosen one marked and a name for those who cannot see" do
    spots =
      [
        ["front_left", "front left", 0.94],
        ["rear_axle", "rear axle", 0.02],
        ["abs_module", "anti-lock module", 0.0]
      ].map { |id, title, share| Web::Svg::VehiclePlan::Spot.new(id: id, title: title, at: [100, 150], share: share) }
    plan =
      Nokogiri.XML(
        Web::Svg::VehiclePlan.new(spots, here: "front_left", driver_side: "right", href: ->(id) { "?#{id}" }).to_s
      ).remove_namespaces!
    expect(plan.css("a").map { |link| [link["aria-label"], link["aria-current"]] }).to eq(
      [["front left, 94 percent", "true"], ["rear axle, 2 percent", nil], ["anti-lock module, – percent", nil]]
    )
    expect(plan.at_css(".plan-wheel")["cx"]).to eq("120")
  end
end

RSpec.describe Web::Helpers::Words do
  let(:words) { Object.new.extend(described_class) }

  {
    0.99 => "almost certain",
    0.8 => "likely",
    0.5 => "more likely than not",
    0.3 => "possible",
    0.06 => "unlikely",
    0.01 => "very unlikely"
  }.each { |chance, word| it("calls #{chance} #{word}") { expect(words.chance_word(chance)).to eq(word) } }

  it "never shows a false nothing or all" do
    expect([0.0, 0.004, 0.5, 0.996].map { |chance| words.percent(chance) }).to eq(["< 1 %", "< 1 %", "50 %", "> 99 %"])
  end

  it "counts time as people do" do
    now = Time.utc(2026, 11, 24, 12)
    said = [30, 1800, 3 * 3600, 50 * 3600].map { |seconds| words.since((now - seconds).iso8601, now) }
    expect(said).to eq(["just now", "30 min", "3 h", "2 days"])
    expect(words.money(1_234_567)).to eq("1 234 567 €")
  end
end
