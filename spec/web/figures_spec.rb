# frozen_string_literal: true

require "web_helper"

# Drawings and words, as pure functions of data.
RSpec.describe Web::Svg do
  let(:line) { system_with("passive").circuits.first.line }

  def figure(**more)
    Nokogiri::XML(Web::Svg::LineFigure.new(line, title: "front left", standings: more.delete(:standings) || {}, **more).to_s).remove_namespaces!
  end

  it "draws the line in the order of the hand, with names, pins and colours" do
    names = figure.css(".joint-name").sort_by { |text| text["x"].to_f }.map(&:text)
    expect(names).to eq(["module plug", "body connector", "sensor plug"])
    expect(figure.css(".place-note").map(&:text)).to include("pins 21, 22", "1.1 m, moves")
    expect(figure.css(".wire-name").map(&:text)).to include("signal white", "return brown")
  end

  it "tells sound, suspect and unknown by line, mark and word, not by colour alone" do
    drawn = figure(standings: { "sensor" => ["sound", 0.0], "body_connector" => ["suspect", 0.62] })
    expect(drawn.css(".place-mark.sound").map(&:text)).to eq(["sound"])
    expect(drawn.css(".place-mark.suspect").map(&:text)).to eq(["62 %"])
    expect([drawn.css("path.mark.sound").size, drawn.css("path.mark.suspect").size, drawn.css("circle.mark.unknown").size]).to eq([1, 1, 6])
    expect(drawn.at_css("desc").text).to include("sensor: sound").and include("body connector: suspect").and include("tone ring: not known")
  end

  it "never says 100 percent" do
    expect(figure(standings: { "sensor" => ["suspect", 0.9999] }).at_css(".place-mark.suspect").text).to eq("99+ %")
  end

  it "puts the probes where the test wants them, and takes its joints apart" do
    drawn = figure(probes: ["signal@sensor_plug.tail", "ground"], apart: ["sensor_plug"])
    expect(drawn.css(".probe-number").map(&:text)).to eq(%w[1 2])
    expect(drawn.css(".place-note").map(&:text)).to include("pins 1, 2 · apart")
    tips = drawn.css(".probe-tip").map { |tip| tip["cx"].to_f }
    expect(tips[0]).to be > 900
    expect(tips[1]).to be < 200
  end

  it "draws any number of joints within its frame" do
    joints = (0..6).map { |i| { "id" => "j#{i}" } }
    long = Gadwall::Circuits::Line.new(catalogue.circuits["wheel_speed_passive"], { "joints" => joints, "sections" => [{ "length_m" => 1, "cross_section_mm2" => 0.5 }] * 6 }, catalogue)
    xs = Nokogiri::XML(Web::Svg::LineFigure.new(long, title: "x", standings: {}).to_s).remove_namespaces!.css(".joint-name").map { |text| text["x"].to_f }
    expect(xs).to eq(xs.sort)
    expect(xs.last).to be < Web::Svg::LineFigure::WIDTH
  end

  it "escapes what stands in names" do
    nasty = Gadwall::Circuits::Line.new(catalogue.circuits["wheel_speed_passive"], { "joints" => [{ "id" => "a", "name" => "<b>\"&" }, { "id" => "b" }], "sections" => [{ "length_m" => 1, "cross_section_mm2" => 0.5 }] }, catalogue)
    expect(Web::Svg::LineFigure.new(nasty, title: "<i>", standings: {}).to_s).to include("&lt;b&gt;").and include("&lt;i&gt;")
  end

  it "shows each corner's share in the plan, with the chosen one marked and a name for those who cannot see" do
    plan = Nokogiri::XML(Web::Svg::VehiclePlan.new({ "front_left" => 0.94, "rear_axle" => 0.02, "abs_module" => 0.0 }, here: "front_left", driver_side: "right", href: ->(id) { "?#{id}" }).to_s).remove_namespaces!
    expect(plan.css("a").map { |link| [link["aria-label"], link["aria-current"]] }).to eq([["front left, 94 percent", "true"], ["rear axle, 2 percent", nil], ["anti-lock module, 0 percent", nil]])
    expect(plan.at_css(".plan-wheel")["cx"]).to eq("120")
  end
end

RSpec.describe Web::Helpers::Words do
  let(:words) { Object.new.extend(described_class) }

  { 0.99 => "nearly certain", 0.8 => "likely", 0.5 => "more likely than not", 0.3 => "possible", 0.06 => "less likely", 0.01 => "hardly" }.each do |chance, word|
    it("calls #{chance} #{word}") { expect(words.chance_word(chance)).to eq(word) }
  end

  it "never shows a false nothing or all" do
    expect([0.0, 0.004, 0.5, 0.996].map { |chance| words.percent(chance) }).to eq(["under 1 %", "under 1 %", "50 %", "over 99 %"])
  end

  it "counts time as people do" do
    now = Time.utc(2026, 11, 24, 12)
    said = [30, 1800, 3 * 3600, 50 * 3600].map { |seconds| words.since((now - seconds).iso8601, now) }
    expect(said).to eq(["just now", "30 min", "3 h", "2 days"])
    expect(words.money(1_234_567)).to eq("1 234 567")
  end
end
