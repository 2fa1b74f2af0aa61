# frozen_string_literal: true

require "spec_helper"
require_relative "../../store/store"
require_relative "../support/store/record_help"
require "tmpdir"

# What the database itself keeps and refuses, whoever writes.
RSpec.describe Store do
  let(:database) { described_class.open(nil) }
  let(:acts) { Store::ActStore.new(database) }
  let(:entries) { Store::EntryStore.new(database) }
  let(:jobs) { Store::JobStore.new(database) }
  let(:summaries) { Store::SummaryStore.new(database) }
  let(:summary) { RecordHelp.summary }
  let(:job) { create(token: "t") }

  def create(customer: "A. Reed", complaint: "lamp", token: nil, entries: [])
    record =
      Gadwall::Job::Record.new(
        customer: customer,
        complaint: complaint,
        taken_in_at: "2026-11-24T08:00:00Z",
        vehicle: {
          "name" => "van"
        }
      )
    acts.create(record, entries, by: "K. Tern", at: "2026-11-24T08:00:00Z", token: token) do |made|
      [summary, "/jobs/#{made.number}"]
    end
  end

  def note(text = "x")
    Gadwall::Job::Entries::Note.new("text" => text)
  end

  def write(*made, seen:, job: self.job, token: nil, causes: [], closed: false)
    said = summary.dup.tap { |copy| copy.closed = closed }
    acts.write(
      job,
      made,
      seen: seen,
      summary: said,
      by: "K. Tern",
      at: "2026-11-24T08:01:00Z",
      token: token,
      causes: causes,
      landing: "/there"
    )
  end

  it "numbers jobs and finds them again" do
    expect(job.number).to eq("J101")
    expect(jobs.find("J101").vehicle).to eq("name" => "van")
    expect(create.number).to eq("J102")
    expect { jobs.find("J999") }.to raise_error(Store::NotFound, /no job J999/)
  end

  it "takes a repeated form for one job and one act, and says where it led" do
    job
    expect([create(token: "t"), acts.landing("t")]).to eq([nil, "/jobs/J101"])
    expect([write(note, seen: 0, token: "a"), write(note, seen: 0, token: "a")]).to eq(%i[written repeated])
    expect([acts.landing("a"), acts.landing(nil), entries.for_job(job).size]).to eq(["/there", nil, 1])
  end

  it "keeps entries in order, as they were, each with its version, day and name" do
    write(note("one"), note("two"), seen: 0)
    expect(entries.for_job(job).map { |entry| [entry.seq, entry.kind, entry["text"], entry.by, entry.at] }).to eq(
      [[1, "note", "one", "K. Tern", "2026-11-24T08:01:00Z"], [2, "note", "two", "K. Tern", "2026-11-24T08:01:00Z"]]
    )
    expect([entries.last_seq(job), entries.since(job, 1).map { |entry| entry["text"] }]).to eq([2, ["two"]])
  end

  it "tells a writer who has not seen the last entry, and writes nothing of that act" do
    write(note, seen: 0)
    expect(write(note, note, seen: 0, token: "late")).to eq(:moved_on)
    expect([entries.last_seq(job), acts.landing("late")]).to eq([1, nil])
  end

  it "writes an act whole or not at all" do
    broken = Gadwall::Job::Entries.stored("kind" => "guess", "version" => 1)
    expect { write(note, broken, seen: 0, token: "half") }.to raise_error(Sequel::ConstraintViolation)
    expect([entries.last_seq(job), acts.landing("half")]).to eq([0, nil])
  end

  it "lets nothing be changed or deleted, by anyone" do
    write(note, seen: 0)
    expect { database[:entries].update(payload: "{}") }.to raise_error(Sequel::DatabaseError, /append-only/)
    expect { database[:entries].delete }.to raise_error(Sequel::DatabaseError, /append-only/)
  end

  {
    "a kind that is not known" => {
      kind: "guess"
    },
    "a payload that is no JSON" => {
      payload: "{"
    },
    "a place before the first" => {
      seq: 0
    },
    "a version before the first" => {
      version: 0
    },
    "a withdrawal without a reason" => {
      kind: "withdraw",
      payload: '{"entry":1,"reason":" "}'
    },
    "a job that does not exist" => {
      job_id: 77
    }
  }.each do |name, wrong|
    it "refuses #{name} in the database itself" do
      row = { job_id: job.id, seq: 9, kind: "note", payload: "{}", at: "x", by: "" }
      expect { database[:entries].insert(row.merge(wrong)) }.to raise_error(Sequel::ConstraintViolation)
    end
  end

  it "names the field that the database refuses" do
    expect_refusal(/customer: empty.*name/) { create(customer: " ") }
    expect_refusal(/complaint: empty/) { create(complaint: "") }
  end

  it "counts closed cases as of a day" do
    write(note, seen: 0, causes: [{ "template" => "wheel_speed_passive", "fault" => "sensor.open" }], closed: true)
    counts = ->(before) { Store::ClosedCaseStore.new(database).counts(["wheel_speed_passive"], before: before) }
    expect(counts.call("2026-11-24T08:01:00Z")).to eq({})
    expect(counts.call("2026-11-25T00:00:00Z")).to eq("wheel_speed_passive" => { "sensor.open" => 1 })
    expect([summaries.count(closed: true), summaries.count(closed: false)]).to eq([1, 0])
  end

  it "finds closed jobs by every word of number, name, plate, customer and code" do
    write(note, seen: 0, closed: true)
    found = ->(text) { summaries.closed(offset: 0, limit: 9, text: text).map(&:number) }
    %w[j101 van Reed C0031].each { |text| expect(found.call(text)).to eq(["J101"]), text }
    expect([found.call("van reed"), found.call("van tern"), found.call("%"), found.call("_")]).to eq(
      [["J101"], [], [], []]
    )
  end

  it "writes once when twenty threads send the same form, and one act at each place in the log" do
    Dir.mktmpdir do |folder|
      @database = described_class.open(File.join(folder, "x.sqlite3"))
      allow(self).to receive(:database).and_return(@database)
      settings = %w[journal_mode synchronous foreign_keys].map { |name| @database.fetch("PRAGMA #{name}").single_value }
      expect(settings).to eq(["wal", 2, 1])
      job
      same = Array.new(20) { Thread.new { write(note, seen: 0, token: "same") } }.map(&:value)
      own = Array.new(20) { |i| Thread.new { write(note, seen: 1, token: "own#{i}") } }.map(&:value)
      expect(same.tally).to eq(written: 1, repeated: 19)
      expect(own.tally).to eq(written: 1, moved_on: 19)
      expect(entries.for_job(job).map(&:seq)).to eq([1, 2])
      @database.disconnect
    end
  end
end
