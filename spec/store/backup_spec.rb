# frozen_string_literal: true

require "web_helper"
require_relative "../../store/command_line"
require_relative "../../demo/workshop"
require "open3"
require "tmpdir"

# The shop copied out and back: while it runs, after each kind of damage, and as lines to the letter.
RSpec.describe Store::CommandLine do
  around do |example|
    Dir.mktmpdir do |folder|
      @folder = folder
      example.run
    end
  end

  let(:path) { File.join(@folder, "shop.sqlite3") }
  let(:copy) { File.join(@folder, "copy.gadwall") }

  def run(*arguments, at: path)
    out = StringIO.new
    err = StringIO.new
    status = described_class.new(at, clock: -> { Time.utc(2031, 3, 4, 5, 6, 7) }, out: out, err: err).run(arguments)
    [status, out.string, err.string]
  end

  def shop(at = path)
    app = Web::App.for_database(at, secret: "p" * 64)
    yield app.workshop
  ensure
    [app&.workshop, app&.practice].compact.each { |each| each.instance_variable_get(:@database).disconnect }
  end

  before(:context) do
    @made = Dir.mktmpdir
    shop(File.join(@made, "shop.sqlite3")) { |workshop| Demo::Workshop.load(workshop, only: %w[02 12]) }
  end

  after(:context) { FileUtils.rm_rf(@made) }

  # A shop of two jobs, made once and copied.
  def filled
    Dir[File.join(@made, "shop.sqlite3{,-practice}")].each { |file| FileUtils.cp(file, @folder) }
  end

  def names(at = path)
    shop(at) { |workshop| workshop.summaries.open.map(&:name).sort }
  end

  # Every row of every table, without what a database counts for itself.
  def content(at)
    io = StringIO.new
    Store::Archive.write(at, io, made_at: "x")
    io.string
  end

  it "brings everything back: backup, disaster, restore, go on" do
    filled
    before = content(path)
    expect(run("backup", copy).first).to eq(0)
    File.write(path, "this is no database any more")
    FileUtils.rm_f(["#{path}-wal", "#{path}-shm"])
    status, told, = run("restore", copy)
    expect([status, JSON.parse(told)["schema"]]).to eq([0, Store.newest_schema])
    expect(content(path)).to eq(before)
    expect(names).not_to be_empty
  end

  it "keeps what a restore replaces, and says where" do
    filled
    run("backup", copy)
    shop { |workshop| Demo::Workshop.load(workshop, only: %w[14]) }
    after = names
    _, told, = run("restore", copy)
    replaced = JSON.parse(told).fetch("replaced")
    expect(names).not_to eq(after)
    expect(run("restore", replaced).first).to eq(0)
    expect(names).to eq(after)
  end

  it "copies a whole state while somebody writes, and refuses no writer" do
    filled
    writer =
      Thread.new do
        database = Sequel.sqlite(path, timeout: 5000)
        200.times { |i| database[:settings].insert(key: "k#{i}", value: "{}", at: "x", by: "x") }
        database.disconnect
      end
    5.times { expect(run("backup", copy).first).to eq(0) }
    writer.join
    expect(run("restore", copy, at: File.join(@folder, "other.sqlite3")).first).to eq(0)
    kept = Sequel.sqlite(File.join(@folder, "other.sqlite3"))
    expect(kept[:settings].select_map(:key).grep(/\Ak/).size).to be_between(0, 200)
    kept.disconnect
  end

  it "puts a copy back under an application that runs, which goes on with it" do
    filled
    run("backup", copy)
    shop do |workshop|
      number = workshop.summaries.open.first.number
      workshop.perform(number, Gadwall::Job::Acts::AddNote, { words: "later" }, by: "A. Reed") { "/" }
      expect(workshop.dossier(number).log.entries.map(&:kind)).to include("note")
      expect(run("restore", copy).first).to eq(0)
      expect(workshop.dossier(number).log.of("note").map { |each| each.data["text"] }).not_to include("later")
    end
  end

  {
    "cut short" => ->(bytes) { bytes[0, bytes.size / 2] },
    "with a byte turned" => ->(bytes) { bytes.dup.tap { |text| text.setbyte(9000, text.getbyte(9000) ^ 1) } },
    "empty" => ->(_) { "" },
    "of something else" => ->(_) { "PK\x03\x04 not ours" * 100 },
    "of a newer Gadwall" => ->(bytes) { bytes.sub(/"schema": \d+/, '"schema": 99') }
  }.each do |name, damage|
    it "refuses a copy #{name}, and leaves all as it stands" do
      filled
      run("backup", copy)
      File.binwrite(copy, damage[File.binread(copy)])
      before = content(path)
      status, out, err = run("restore", copy)
      expect([status, out]).to eq([1, ""])
      expect(err).to match(/damaged|no copy|newer/)
      expect(content(path)).to eq(before)
    end
  end

  it "writes lines that read back to the letter, into an empty place only" do
    filled
    lines = File.join(@folder, "shop.jsonl")
    other = File.join(@folder, "new", "shop.sqlite3")
    FileUtils.mkdir_p(File.dirname(other))
    expect(run("archive", lines).first).to eq(0)
    expect(run("unarchive", lines, at: other).first).to eq(0)
    expect(content(other)).to eq(content(path))
    expect(names(other)).to eq(names)
    status, _, err = run("unarchive", lines, at: other)
    expect([status, err]).to match([1, /empty place/])
  end

  head = "{\"gadwall_archive\":1,\"schema\":#{Store.newest_schema}}\n"
  [
    "",
    "[]",
    "{}\n",
    '{"gadwall_archive":1,"schema":99}',
    "#{head}{\"part\":\"workshop\"}",
    "#{head}{\"part\":\"workshop\",\"table\":\"jobs\",\"row\":{\"no\":1}}"
  ].each do |text|
    it "refuses lines such as #{text[0, 40].inspect}, and leaves nothing behind" do
      lines = File.join(@folder, "bad.jsonl")
      File.write(lines, text)
      status, out, err = run("unarchive", lines)
      expect([status, out, File.exist?(path)]).to eq([1, "", false])
      expect(err).to include("archive")
    end
  end

  it "copies a database before an upgrade changes it, which an older program can be given back" do
    earlier = File.expand_path("../fixtures/workshop_84eb7d7.sqlite3", __dir__)
    FileUtils.cp(earlier, path)
    before = Sequel.sqlite(path)
    schema = before[:schema_info].get(:version)
    jobs = before[:jobs].count
    before.disconnect
    Store.open(path).disconnect
    kept = "#{path}.schema-#{schema}.gadwall"
    expect(Store::Backup.verified(kept)["schema"]).to eq(schema)
    expect(run("restore", kept, at: "#{path}.back").first).to eq(0)
    back = Sequel.sqlite("#{path}.back")
    expect([back[:schema_info].get(:version), back[:jobs].count]).to eq([schema, jobs])
    back.disconnect
    before = Dir["#{@folder}/*"].size
    Store.open(path).disconnect # nothing to upgrade, nothing to copy
    expect(Dir["#{@folder}/*"].size).to eq(before)
  end

  it "is reached by bin/gadwall" do
    filled
    said, status = Open3.capture2e({ "GADWALL_DB" => path, "BUNDLE_WITHOUT" => nil }, "bin/gadwall", "backup", copy)
    expect([status.exitstatus, JSON.parse(said)["gadwall_backup"]]).to eq([0, 1]), said
    said, status =
      Open3.capture2e({ "GADWALL_DB" => "#{path}.none", "BUNDLE_WITHOUT" => nil }, "bin/gadwall", "backup", copy)
    expect([status.exitstatus, said]).to match([1, /no database/])
    expect(run("backup").first).to eq(2)
  end
end
