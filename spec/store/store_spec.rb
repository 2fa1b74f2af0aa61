# frozen_string_literal: true

require "spec_helper"
require_relative "../../store/store"
require "tmpdir"

RSpec.describe Store do
  let(:database) { described_class.open(nil) }
  let(:jobs) { Store::JobStore.new(database) }
  let(:entries) { Store::EntryStore.new(database) }
  let(:job) do
    jobs.create(
      vehicle: {
        "name" => "van"
      },
      customer: "A. Reed",
      complaint: "lamp",
      at: "2026-11-24T08:00:00Z",
      token: "t"
    )
  end

  def append(entry = { "kind" => "note" }, **more)
    entries.append(job, entry, at: "2026-11-24T08:01:00Z", **more)
  end

  it "numbers jobs and finds them again" do
    expect(job.number).to eq("J101")
    expect(jobs.find("J101").vehicle).to eq("name" => "van")
    expect(jobs.create(vehicle: {}, customer: "B", complaint: "c", at: "x").number).to eq("J102")
    expect { jobs.find("J999") }.to raise_error(Store::NotFound, /no job J999/)
  end

  it "takes a repeated form for one job and one entry" do
    job
    expect(jobs.create(vehicle: {}, customer: "B", complaint: "c", at: "x", token: "t").number).to eq("J101")
    expect([append(token: "a"), append(token: "a")]).to eq(%i[written repeated])
    expect(entries.for_job(job).size).to eq(1)
  end

  it "keeps entries in order, as they were" do
    append({ "kind" => "reading", "test" => "x", "reading" => "OL" }, by: "K. Tern")
    append({ "kind" => "withdraw", "entry" => 1, "reason" => "wrong pin" })
    expect(entries.for_job(job).map { |entry| entry.values_at("seq", "kind", "reading", "reason", "by") }).to eq(
      [[1, "reading", "OL", nil, "K. Tern"], [2, "withdraw", nil, "wrong pin", ""]]
    )
    expect(entries.by_job.fetch(job.id).size).to eq(2)
  end

  it "tells a writer who has not seen the last entry" do
    append
    append(seen: 1)
    expect { append(seen: 1) }.to raise_error(Store::Conflict) { |error|
      expect(error.entries.map { |entry| entry["seq"] }).to eq([2])
    }
    expect(entries.for_job(job).size).to eq(2)
  end

  it "lets nothing be changed or deleted, by anyone" do
    append
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
    expect_refusal(/customer: nothing.*name/) { jobs.create(vehicle: {}, customer: " ", complaint: "c", at: "x") }
    expect_refusal(/complaint: nothing/) { jobs.create(vehicle: {}, customer: "a", complaint: "", at: "x") }
  end

  it "writes once when twenty threads send the same form, and all when they send their own" do
    Dir.mktmpdir do |folder|
      path = File.join(folder, "x.sqlite3")
      first = described_class.open(path)
      expect(first.fetch("PRAGMA journal_mode").single_value).to eq("wal")
      expect(first.fetch("PRAGMA foreign_keys").single_value).to eq(1)
      shared = Store::JobStore.new(first).create(vehicle: {}, customer: "a", complaint: "b", at: "x")
      store = Store::EntryStore.new(first)
      same =
        Array.new(20) { Thread.new { store.append(shared, { "kind" => "note" }, at: "x", token: "same") } }.map(&:value)
      own =
        Array
          .new(20) { |i| Thread.new { store.append(shared, { "kind" => "note" }, at: "x", token: "own#{i}") } }
          .map(&:value)
      expect(same.tally).to eq(written: 1, repeated: 19)
      expect(own.tally).to eq(written: 20)
      expect(store.for_job(shared).map { |entry| entry["seq"] }).to eq((1..21).to_a)
      first.disconnect
    end
  end
end
