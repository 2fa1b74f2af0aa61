# frozen_string_literal: true

require "time"
require "yaml"
require_relative "sign_off"

module Demo
  # A workshop of our own invention: Low Weir Brake & Axle, on the quay of a river port. No such place, people or
  # vehicles. Every job is made by the same acts as the real ones, at times that count back from now.
  class Workshop
    JOBS = File.join(__dir__, "jobs")
    CAPTURES = File.join(__dir__, "captures")
    Acts = Gadwall::Job::Acts

    # Makes every job of demo/jobs in an empty workshop. workshop: Web::Workshop; now: Time that "hours_ago" counts back
    # from; only: beginnings of the files' names, for some of them.
    def self.load(workshop, now: workshop.now, only: nil)
      new(workshop, now).load(only)
    end

    def initialize(workshop, now)
      @workshop = workshop
      @now = now
    end

    # only: as above.
    def load(only = nil)
      @workshop.mark_demo(by: "the demo", at: @now)
      files = Dir[File.join(JOBS, "*.yml")]
      files = files.select { |file| File.basename(file).start_with?(*only) } if only
      files.each { |file| job(YAML.safe_load_file(file)) }
    end

    private

    def job(data)
      start = @now - (data["hours_ago"] * 3600)
      number = take_in(data, start)
      rest = data["entries"].drop(1)
      step = (data["hours_ago"] - data["idle_hours"]) * 3600.0 / (rest.size + 1)
      rest.each_with_index do |entry, i|
        at = start + (step * (i + 1))
        by = entry["by"] || data["technician"]
        next sign(number, entry, by, at) if entry["kind"] == "sign"
        next drive(number, by, at) if entry["item"] == "all"

        act, values = act_of(entry)
        perform(number, act, values, by, at)
      end
      data["captures"].to_a.each { |capture| hand_in(number, capture, start) }
    end

    # Signs step after step with sound figures, up to the step that it names or to the end of the repair; its own
    # figures where the entry gives them. A wait is begun before its step.
    def sign(number, entry, by, at)
      loop do
        dossier = @workshop.dossier(number)
        rows = entry["proof"] ? dossier.plan.proof : dossier.plan.repair
        row = rows.find { |each| !each.done? }
        return if row.nil? || row.id == entry["until"]

        if row.step.wait_minutes
          perform(number, Acts::BeginWait, { step: row.id }, by, at - ((row.step.wait_minutes + 1) * 60))
        end
        given = Demo::SignOff.values(row.step)
        own = (entry["figures"] || {}).slice(*given[:figures].keys)
        perform(number, Acts::SignStep, { step: row.id, **given, figures: given[:figures].merge(own) }, by, at)
      end
    end

    # Every leg of the proof drive, every monitor ran.
    def drive(number, by, at)
      perform(number, Acts::SignDrive, { read: "1" }, by, at)
    end

    def take_in(data, at)
      complaint = data["entries"].first
      values = {
        vehicle: data["vehicle"],
        customer: data["customer"],
        complaint: data["complaint"],
        ids: complaint["ids"] || [],
        triage: complaint["triage"] || [],
        promised_at: data["promised_in_hours"] && (@now + (data["promised_in_hours"] * 3600)).iso8601
      }
      @workshop.check_in(values, by: data["technician"], at: at, &:number)
    end

    # [act, values] of an entry of demo/jobs.
    def act_of(entry)
      case entry["kind"]
      when "scan"
        [Acts::KeepScan, { phase: entry["phase"], codes: entry["codes"], modules: entry["modules"] }]
      when "reading"
        [Acts::TakeReading, reading(entry, entry["reading"])]
      when "finding"
        [Acts::TakeReading, reading(entry, entry["result"])]
      when "lamps"
        [Acts::NoteLamps, { lit: entry["lit"], time: entry["when"], others_out: entry["others_out"] }]
      when "presence"
        [Acts::SayPresence, { fault: entry["fault"] }]
      when "decision"
        [Acts::Decide, entry.slice("option", "words", "signed_by").transform_keys(&:to_sym)]
      when "handover"
        [Acts::HandOver, { words: entry["words"] }]
      when "pads"
        [Acts::MeasurePads, { readings: texts(entry["readings"]), new_at: entry["new_at"].to_s }]
      when "parameters"
        [Acts::KeepParameters, { source: entry["source"], text: entry["text"] }]
      else
        raise ArgumentError, "demo: no act for an entry of kind #{entry["kind"]}"
      end
    end

    # Figures as they would be typed.
    def texts(readings)
      readings.transform_values { |value| value.is_a?(Hash) ? texts(value) : value.to_s }
    end

    def reading(entry, typed)
      { test: entry["test"], typed: typed, condition: entry["condition"], phase: entry["phase"] || "before" }
    end

    def perform(number, act, values, by, at)
      done = @workshop.perform(number, act, values, by: by, at: at) { |job| "/jobs/#{job.number}" }
      raise "demo: #{number}, #{act}: #{done.errors.values.join(" ")}" unless done.ok?
    end

    # Analysed here as the page does it.
    def hand_in(number, capture, at)
      dossier = @workshop.dossier(number)
      path = File.join(CAPTURES, capture["file"])
      given = { teeth: capture["teeth"] || dossier.sheet.teeth, sensor: capture["sensor"] }
      analysis, waveform =
        Gadwall::Signals::CaptureFile.of(
          path,
          capture["kind"],
          view: true,
          circumference_m: dossier.sheet.circumference_m,
          **given
        )
      source = capture["kind"] == "live_data" ? File.binread(path) : nil
      files = { waveform: waveform.to_bytes, source: source }
      store = { name: capture["file"], circuit: capture["circuit"], analysis: analysis, at: at.iso8601 }
      @workshop.captures.save(dossier.record, **store, **files)
    end
  end
end
