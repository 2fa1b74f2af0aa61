# frozen_string_literal: true

require "spec_helper"
require_relative "../../store/store"
require "tmpdir"

# What was computed of a wiring is put away on disk: after a start it is read again, and says the same.
RSpec.describe Store::TableFolder do
  around { |example| Dir.mktmpdir { |folder| @path = File.join(folder, "tables") and example.run } }

  scan = {
    "kind" => "scan",
    "modules" => [{ "name" => "ABS", "answered" => true }],
    "codes" => [
      { "code" => "C0031", "failure_type" => "13", "status" => "current" },
      { "code" => "C0034", "failure_type" => "62" }
    ]
  }

  def models(folder)
    Gadwall::Vehicle::ModelCache.new(place: folder)
  end

  def assessed(models, scan)
    sheet = Gadwall::Vehicle::Sheet.new("name" => "x", "stability" => "yes", "sensors" => "active")
    system = Gadwall::Vehicle::System.build(sheet, models: models)
    assessment = Gadwall::Diagnosis.assess(system, Gadwall::Job::Log.new([scan], system).body)
    [
      assessment.posterior.places.map { |place, p| [place, p] },
      assessment.next_tests.first(8).map { |test| [test.id, test.bits] },
      assessment.verdict.state
    ]
  end

  # What every table and all monitors were made from, nil where it was computed.
  def kept_by_kind
    kept = { Gadwall::Tests::TestTable => [], Gadwall::Tests::Monitors => [] }
    kept.each do |kind, all|
      allow(kind).to receive(:new).and_wrap_original do |made, *given|
        all << given.last
        made.call(*given)
      end
    end
    yield
    kept
  end

  def files
    Dir[File.join(@path, "*", "*")]
  end

  it "knows a table by the code that computed it: every room that it names is there" do
    expect(described_class::ROOMS.map { |room| described_class.files("lib/gadwall/#{room}/**/*.rb") }).to all(be_any)
  end

  it "gives the same answer to the last digit, computed, put away and read again" do
    first = models(described_class.new(@path))
    computed = assessed(first, scan)
    first.put_away
    expect(files).not_to be_empty
    kept = kept_by_kind { expect(assessed(models(described_class.new(@path)), scan)).to eq(computed) }
    expect(kept.values.map(&:size)).to all(be > 2)
    expect(kept.values.flatten(1)).to all(be_an(Array))
  end

  it "puts away what it lets go of for want of room, and what was computed of readings takes room too" do
    large = models(nil)
    computed = assessed(large, scan)
    small = Gadwall::Vehicle::ModelCache.new(most: 40, place: described_class.new(@path))
    expect(assessed(small, scan)).to eq(computed)
    expect(files).to eq([]) # nothing was let go of yet
    other = Gadwall::Vehicle::Sheet.new("name" => "y", "sensors" => "direction", "park_brake" => "caliper_motor")
    [large, small].each { |cache| Gadwall::Vehicle::System.build(other, models: cache) }
    expect([small.size < large.size, files.size]).to match([true, be > 3])

    sheet = Gadwall::Vehicle::Sheet.new("name" => "x", "sensors" => "active")
    system = Gadwall::Vehicle::System.build(sheet, models: models(nil))
    read = { "kind" => "reading", "test" => "front_left.feed_volts.sensor_plug", "reading" => "12.1" }
    model = system.circuit_named("front_left").model
    weights =
      [[scan], [scan, read]].map do |entries|
        Gadwall::Diagnosis.assess(system, Gadwall::Job::Log.new(entries, system).body)
        [model.weight, model.instance_variable_get(:@tables).size]
      end
    more, tables = weights.last.zip(weights.first).map { |after, before| after - before }
    expect(more).to be > tables
  end

  it "computes anew what cannot be read: cut short, of another kind, empty" do
    first = models(described_class.new(@path))
    computed = assessed(first, scan)
    first.put_away
    files.each_with_index do |file, i|
      bytes = File.binread(file)
      File.binwrite(file, [bytes[0, bytes.size / 2], "no table", "", Marshal.dump([1]), Marshal.dump(nil)][i % 5])
    end
    expect(assessed(models(described_class.new(@path)), scan)).to eq(computed)
  end

  it "drops what another version of the knowledge or of the code put away, and is its owner's alone" do
    described_class.new(@path).write("key", "bytes")
    old = File.join(@path, "0123456789abcdef")
    FileUtils.mkdir_p(old)
    File.write(File.join(old, "table"), "old")
    folder = described_class.new(@path)
    expect(File.exist?(old)).to be(false)
    expect(folder.read("key")).to eq("bytes")
    expect(files.map { |file| format("%o", File.stat(file).mode & 0o777) }).to eq(["600"])
  end

  it "goes on without a place to write" do
    folder = described_class.new(@path)
    FileUtils.rm_rf(@path)
    File.write(@path, "a file where the folder was")
    cache = models(folder)
    computed = assessed(cache, scan)
    expect { cache.put_away }.not_to raise_error
    expect(computed.first).not_to be_empty
  end

  it "goes with its database" do
    database = "#{@path}.sqlite3"
    described_class.new("#{database}-tables").write("key", "bytes")
    Store.remove(database)
    expect(Dir.exist?("#{database}-tables")).to be(false)
  end
end
