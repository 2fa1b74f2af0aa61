# frozen_string_literal: true

require "spec_helper"
require_relative "../../store/store"
require_relative "../support/store/record_help"
require "tmpdir"

# A database that cannot be used is told in one sentence that says what to do.
RSpec.describe Store, ".open" do
  around { |example| Dir.mktmpdir { |folder| @folder = folder and example.run } }

  let(:path) { File.join(@folder, "gadwall.sqlite3") }

  # A workshop of three hundred jobs in the file.
  def fill
    database = described_class.open(path)
    acts = Store::ActStore.new(database)
    300.times do |n|
      record = RecordHelp.record(customer: "Customer #{n}", complaint: "lamp " * 100)
      acts.create(record, [RecordHelp.note], by: "K. Tern", at: RecordHelp::AT) { [RecordHelp.summary, "/"] }
    end
    database.run("PRAGMA wal_checkpoint(TRUNCATE)")
    database.disconnect
  end

  def refusal(&block)
    expect(&block || -> { described_class.open(path) }).to raise_error(Store::Unusable) { |error|
      @said = error.message
    }
    expect(@said.lines.size).to eq(1)
    @said
  end

  it "says that a file is no database" do
    File.binwrite(path, "This is a letter, not a database.\n" * 400)
    expect(refusal).to match(/is damaged or no SQLite database. Put back a copy/)
  end

  it "finds damage in the middle of a file" do
    fill
    size = File.size(path)
    (0.2..0.8).step(0.1) { |part| File.binwrite(path, "\xff".b * 3000, (size * part).to_i) }
    expect(refusal).to match(/is damaged .*Put back a copy/)
  end

  it "finds a file cut short" do
    fill
    File.truncate(path, File.size(path) / 2)
    expect(refusal).to include("is damaged")
  end

  it "takes no database of another program" do
    other = SQLite3::Database.new(path)
    other.execute("CREATE TABLE recipes (name TEXT)")
    other.close
    expect(refusal).to match(/is a database of another program. Set GADWALL_DB/)
    File.delete(path)
    other = SQLite3::Database.new(path)
    other.execute("PRAGMA application_id = 77")
    other.execute("CREATE TABLE schema_info (version INTEGER)")
    other.close
    expect(refusal).to include("of another program")
    check = Store::Check.begin(path)
    expect(refusal { described_class.open(path, check: check) }).to include("of another program")
  end

  it "says where a folder is missing, or the name is a folder's" do
    expect(refusal { described_class.open(File.join(@folder, "none", "x.sqlite3")) }).to include("folder exists")
    expect(refusal { described_class.open(@folder) }).to match(/cannot be opened|cannot be used/)
  end

  it "says that a file cannot be written" do
    fill
    allow(Sequel).to receive(:sqlite).and_wrap_original do |original, file, **options|
      original.call(file, **options, readonly: true)
    end
    FileUtils.rm_f("#{path}-wal")
    expect(refusal).to match(/cannot be written|cannot be used/)
  end

  it "is checked by a process of its own as by itself" do
    fill
    expect(Store::Check.begin(path).verdict).to eq("ok")
    expect(Store::Check.begin("#{path}-none")).to be_nil
    File.binwrite(path, "\xff".b * 9000, File.size(path) / 2)
    check = Store::Check.begin(path)
    expect(check.verdict).not_to eq("ok")
    expect(refusal { described_class.open(path, check: check) }).to include("is damaged")
  end

  it "is held by one at a time, and says by whom" do
    lock = Store::Lock.take(path, "the server at http://127.0.0.1:9292 (process 77)")
    expect(refusal { Store::Lock.take(path, "another") }).to match(/in use by the server at .* Stop that first/)
    lock.release
    expect(Store::Lock.take(path, "another")).to be_a(Store::Lock)
  end
end
