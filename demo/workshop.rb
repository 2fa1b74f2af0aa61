# frozen_string_literal: true

require "time"
require "yaml"

module Demo
  # A workshop of our own invention: Low Weir Brake & Axle, on the quay of a river port. No such place, people or
  # vehicles. Every job is written through the same store as the real ones; nothing computed is stored.
  class Workshop
    JOBS = File.join(__dir__, "jobs")
    CAPTURES = File.join(__dir__, "captures")

    # Loads every job of demo/jobs into an empty database. now: Time that "hours_ago" counts back from.
    def self.load(database, now: Time.now.utc)
      new(database, now).load
    end

    def initialize(database, now)
      @jobs = Store::JobStore.new(database)
      @entries = Store::EntryStore.new(database)
      @captures = Store::CaptureStore.new(database)
      @now = now
    end

    def load
      Dir[File.join(JOBS, "*.yml")].sort.each { |file| job(YAML.safe_load_file(file)) }
    end

    private

    def job(data)
      start = @now - (data["hours_ago"] * 3600)
      job =
        @jobs.create(
          vehicle: data["vehicle"],
          customer: data["customer"],
          complaint: data["complaint"],
          at: start.iso8601
        )
      step = (data["hours_ago"] - data["idle_hours"]) * 3600.0 / data["entries"].size
      data["entries"].each_with_index do |entry, i|
        @entries.append(
          job,
          entry.except("by"),
          at: (start + (step * (i + 1))).iso8601,
          by: entry["by"] || data["technician"]
        )
      end
      data["captures"].to_a.each { |capture| hand_in(job, capture, start) }
    end

    # Analysed here as the page does it.
    def hand_in(job, capture, at)
      path = File.join(CAPTURES, capture["file"])
      sheet = Gadwall::Vehicle::Sheet.new(job.vehicle)
      analysis, trace =
        Gadwall::CaptureFile.of(
          path,
          capture["kind"],
          view: true,
          teeth: capture["teeth"] || sheet.teeth,
          sensor: capture["sensor"],
          circumference_m: sheet.circumference_m
        )
      @captures.keep(
        job,
        name: capture["file"],
        circuit: capture["circuit"],
        analysis: analysis,
        at: at.iso8601,
        trace: trace.to_bytes,
        source: capture["kind"] == "live_data" ? File.binread(path) : nil
      )
    end
  end
end
