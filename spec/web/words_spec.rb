# frozen_string_literal: true

require "web_helper"

# Every text that a user reads speaks the trade's words: what is listed in spec/cases/retired_words.yml stays out.
RSpec.describe "The words", :web do
  RETIRED = YAML.safe_load_file(File.expand_path("../cases/retired_words.yml", __dir__)).freeze
  SHOWN_KEYS = %w[title name text where reason met note label].freeze
  LISTS = %w[outcomes answers].freeze

  # [[where, text], ...] of what a record shows.
  def shown(value, path, listed: false)
    case value
    when Hash
      value.flat_map do |key, each|
        next [] if %w[source id patterns says].include?(key)

        shown(each, "#{path}/#{key}", listed: listed || LISTS.include?(key) || SHOWN_KEYS.include?(key))
      end
    when Array
      value.each_with_index.flat_map do |each, i|
        shown(each, "#{path}/#{each.is_a?(Hash) ? each["id"] : i}", listed: listed)
      end
    when String
      listed ? [[path, value]] : []
    else
      []
    end
  end

  def retired(text)
    RETIRED.filter_map do |row|
      left = row["but"] ? text.gsub(/#{row["but"]}/, "") : text
      found = left[/#{row["pattern"]}/i] and "'#{found}' (#{row["use"]})"
    end
  end

  def wrong(texts)
    texts.flat_map { |where, text| retired(text).map { |each| "#{where}: #{each} in: #{text[0, 120]}" } }
  end

  it "are the trade's in every text of data" do
    files = Dir[File.join(Gadwall::Knowledge::FOLDER, "**/*.yml")].reject { |file| file.include?("/archive/") }
    texts = files.flat_map { |file| shown(YAML.safe_load_file(file, aliases: true), file.split("/data/").last) }
    expect(texts.size).to be > 1000
    expect(wrong(texts).join("\n")).to eq("")
  end

  it "are the trade's in every view, read from its file" do
    files = Dir[File.expand_path("../../app/views/**/*.erb", __dir__)]
    texts = files.map { |file| [file.split("/views/").last, visible(File.read(file))] }
    expect(texts.size).to be > 40
    expect(wrong(texts).join("\n")).to eq("")
  end

  # The text of a template without Ruby and without tags, but with what stands in labels for those who cannot see.
  def visible(template)
    bare = template.gsub(/<%.*?%>/m, " ")
    labels = bare.scan(/(?:aria-label|title|placeholder|alt)="([^"]*)"/).flatten
    [bare.gsub(/<[^>]*>/m, " "), *labels].join(" ").gsub(/\s+/, " ")
  end

  it "are the trade's on every page of the demo's jobs" do
    Demo::Workshop.load(workshop)
    sign_in
    paths = %w[/ /jobs/closed /jobs/new /person /day /settings]
    paths += Gadwall::Calculators::Book.records.keys.map { |id| "/sums?sum=#{id}" }
    paths +=
      workshop.jobs.all.flat_map do |job|
        stages = Gadwall::Job::Stage::ALL.drop(1)
        reached = stages.select { |stage| workshop.dossier(job.number).head.reached?(stage) }
        (reached + %w[vehicle captures pads]).uniq.map { |page| "/jobs/#{job.number}/#{page}" }
      end
    expect(wrong(pages(paths)).join("\n")).to eq("")
  end

  it "are the trade's in the practice bay: at the bench after every kind of act, and afterwards" do
    submit("/practice", "/practice", exercise: "dead-coil")
    number = last_response.headers["location"][/P\d+/]
    submit("/jobs/#{number}/codes", "/jobs/#{number}/interface/read")
    line = { "circuit" => "front_right", "joint" => "sensor_plug", "corner" => "front_right" }
    acts =
      %w[drive wheel chock stands lift unplug stands wheel unplug drive lower look wiggle plug clear mend].map do |kind|
        line.merge("kind" => kind, "place" => kind == "mend" ? "front_right/sensor" : "sensor")
      end
    acts << { "kind" => "finish" }
    texts = pages(%W[/practice /jobs/#{number}/bench /jobs/#{number}/trace])
    record = app.settings.practice.dossier(number).record
    acts.each do |act|
      app.settings.practice.stands.act(record, act, by: "x", at: app.settings.practice.now)
    rescue Gadwall::InputError => error
      texts << [act["kind"], error.message]
    end
    texts += pages(%W[/jobs/#{number}/bench /jobs/#{number}/debrief])
    expect(wrong(texts).join("\n")).to eq("")
  end

  # [[path, what it shows], ...].
  def pages(paths)
    paths.map do |path|
      get path
      expect([path, last_response.status]).to eq([path, 200])
      [path, text]
    end
  end
end
