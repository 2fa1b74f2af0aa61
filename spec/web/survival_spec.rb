# frozen_string_literal: true

require "web_helper"
require_relative "../support/web/capture_files"

# What is under way when a server ends, a disk fills, or two browsers want opposite things.
RSpec.describe "Under way", :web do
  include CaptureFiles

  around { |example| Dir.mktmpdir { |folder| @folder = folder and example.run } }

  def path
    File.join(@folder, "gadwall.sqlite3")
  end

  def app
    @app ||= WebHelp.application(path)
  end

  # The server ends, and another starts at the same database.
  def restart
    @app = nil
    workshop.analyses.take_up
  end

  def analyses_folder
    "#{path}-analyses"
  end

  def record(number)
    workshop.jobs.find(number)
  end

  def hand_in(number, content)
    base = "/jobs/#{number}/captures"
    submit(base, base, file: upload(content), kind: "wheel_speed", circuit: "front_left", teeth: "48")
  end

  describe "an analysis" do
    before { stub_const("Web::AnalysisQueue::SLOW_BYTES", 1000) }

    it "is taken up again after a restart, and leaves nothing in its folder or the temporary one" do
      allow(Thread).to receive(:new).and_call_original
      number = job(codes: "C0031-64 current")
      allow(workshop.analyses).to receive(:begin_thread) # the server ends before it ran
      before = Dir.children(Dir.tmpdir).grep(/gadwall-analyses/).size
      hand_in(number, wheel(missing: [16]))
      waiting = workshop.analyses.for_job(record(number)).first
      expect([waiting.state, Dir.children(analyses_folder)]).to eq(["waiting", [waiting.id]])
      FileUtils.mkdir_p(File.join(analyses_folder, "left-behind"))

      restart
      wait_for { workshop.analyses.find(record(number), waiting.id).over? }
      kept = workshop.captures.for_job(record(number))
      expect(kept.map { |capture| capture.analysis["findings"].first["teeth"] }).to eq([[17]])
      wait_for { Dir.empty?(analyses_folder) }
      expect(Dir.children(Dir.tmpdir).grep(/gadwall-analyses/).size).to eq(before)
    end

    it "says that its file was lost, where it was" do
      number = job(codes: "C0031-64 current")
      allow(workshop.analyses).to receive(:begin_thread)
      hand_in(number, wheel)
      FileUtils.rm_rf(analyses_folder)
      restart
      get "/jobs/#{number}/captures"
      expect(text).to include("The file was lost in a restart. Hand it in again.")
    end

    it "says that the disk is full, and keeps nothing of it" do
      number = job(codes: "C0031-64 current")
      allow(FileUtils).to receive(:cp).and_raise(Errno::ENOSPC)
      hand_in(number, wheel)
      expect([last_response.status, text]).to match([507, /The disk is full: the file was not taken/])
      expect([workshop.analyses.for_job(record(number)), Dir.children(analyses_folder)]).to eq([[], []])
    end
  end

  it "says that the disk is full where an entry cannot be written, and has written nothing" do
    number = job(codes: "C0031-13 current")
    database = workshop.instance_variable_get(:@database)
    pages = database.fetch("PRAGMA page_count").single_value
    database.run("PRAGMA max_page_count = #{pages}")
    before = entries(number).size
    30.times do |n|
      submit("/jobs/#{number}/report", "/jobs/#{number}/notes", words: "#{n} #{"x" * 900}")
      break unless last_response.redirect?
    end
    expect([last_response.status, text]).to match([507, /disk is full.*Nothing was saved/])
    database.run("PRAGMA max_page_count = 1000000")
    expect(entries(number).size).to be >= before
    expect(database.fetch("PRAGMA integrity_check").single_value).to eq("ok")
    submit("/jobs/#{number}/report", "/jobs/#{number}/notes", words: "room again")
    expect(last_response.status).to eq(303)
  end

  it "takes the sheet without a connector or a reading at it, never both, ten times" do
    acts = Gadwall::Job::Acts
    outcomes =
      Array.new(10) do
        number = job(codes: "C0031-13 current")
        vehicle = record(number).vehicle
        shorter = vehicle.merge("circuits" => { "front_left" => without_body_connector })
        sheet = { vehicle: shorter, system: workshop.loader.system(shorter) }
        reading = { test: "front_left.resistance.body_connector", typed: "1.1k", phase: "before" }
        gate = Queue.new
        threads =
          { acts::EditSheet => sheet, acts::TakeReading => reading }.map do |act, values|
            Thread.new { gate.pop && workshop.perform(number, act, values, by: "x") { "/" }.ok? }
          end
        2.times { gate << :go }
        taken = threads.map(&:value)
        get "/jobs/#{number}/trace"
        [taken.count(true), last_response.status, workshop.dossier(number).trouble]
      end
    expect(outcomes.uniq).to eq([[1, 200, nil]])
  end

  def without_body_connector
    {
      "joints" => [
        { "id" => "module_plug", "name" => "module connector", "pins" => { "signal" => "21", "return" => "22" } },
        { "id" => "sensor_plug", "name" => "sensor connector", "pins" => { "signal" => "1", "return" => "2" } }
      ],
      "sections" => [{ "length_m" => 2.9, "cross_section_mm2" => 0.5 }]
    }
  end
end
