# frozen_string_literal: true

require "spec_helper"
require_relative "../../store/store"
require_relative "../support/store/record_help"
require "tmpdir"

# A process that is killed while it writes leaves whole acts or none.
RSpec.describe "kill -9" do
  KILLS = 200
  OF_ONE_ACT = 3 # entries

  # Writes acts of three entries without end, and tells through a pipe of every statement that changes something.
  def writer(path, pipe)
    database = Store.open(path)
    database.loggers << Statements.new(pipe)
    acts = Store::ActStore.new(database)
    job = Store::JobStore.new(database).find("J101")
    loop { act(acts, job, Store::EntryStore.new(database).last_seq(job)) }
  end

  def act(acts, job, seen)
    entries = Array.new(OF_ONE_ACT) { |n| RecordHelp.note("#{seen} #{n}") }
    token = format("%032x", seen)
    acts.write(job, entries, seen: seen, summary: RecordHelp.summary, by: "K. Tern", at: RecordHelp::AT, token: token)
  end

  # A logger of Sequel that writes one letter for each change.
  class Statements
    def initialize(pipe)
      @pipe = pipe
    end

    def info(line)
      @pipe.syswrite("w") if line.match?(/INSERT|UPDATE|COMMIT/)
    end
    alias debug info
    alias error info
    alias warn info
  end

  # Starts a writer and kills it when it has begun its nth change.
  def kill_at(path, count)
    reader, pipe = IO.pipe
    pid =
      fork do
        reader.close
        writer(path, pipe)
      ensure
        exit!
      end
    pipe.close
    left = count
    left -= reader.readpartial(1).size while left.positive?
    Process.kill("KILL", pid)
    Process.wait(pid)
  ensure
    reader.close
  end

  # What is wrong with the file: [] where it is whole.
  def wrong_with(path)
    database = Store.open(path)
    entries = database[:entries].count
    wrong = []
    wrong << "integrity" unless database.fetch("PRAGMA integrity_check").single_value == "ok"
    wrong << "half an act: #{entries} entries" unless (entries % OF_ONE_ACT).zero?
    wrong << "summary" unless [nil, 0, entries].include?(database[:job_summaries].get(:seq))
    wrong << "tokens" unless database[:form_tokens].where(Sequel.like(:token, "0%")).count == entries / OF_ONE_ACT
    database.disconnect
    wrong
  end

  it "leaves whole acts or none, #{KILLS} times, in the middle of a write" do
    Dir.mktmpdir do |folder|
      path = File.join(folder, "x.sqlite3")
      database = Store.open(path)
      Store::ActStore
        .new(database)
        .create(RecordHelp.record, [], by: "K. Tern", at: RecordHelp::AT) { [RecordHelp.summary, "/"] }
      database.disconnect
      random = Random.new(11)
      wrong =
        Array.new(KILLS) do
          kill_at(path, 1 + random.rand(14))
          wrong_with(path)
        end
      expect(wrong.flatten.tally).to eq({})
      database = Store.open(path)
      expect(database[:entries].count).to be > KILLS
      database.disconnect
    end
  end
end
