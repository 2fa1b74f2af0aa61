# frozen_string_literal: true

require "json"

module Store
  # The workshop's people, places and tools; where somebody put a step of a day; when parts arrive; and how long signed
  # steps took.
  class DayStore
    KEY = "day"
    BASELINE = "day_baseline"
    PART = "part"
    LONGEST_S = 90 * 60 # a longer pause between two signatures was no single step
    MOST = 4000

    def initialize(database)
      @database = database
      @settings = Settings.new(database)
    end

    # Gadwall::Scheduling::WorkshopHours.
    def hours
      Gadwall::Scheduling::WorkshopHours.new(@settings[KEY] || {})
    end

    # hours: Gadwall::Scheduling::WorkshopHours.
    def save_hours(hours, by:, at:)
      @settings.keep(KEY, hours.to_h, by: by, at: at)
    end

    # {job number => minutes} of the day as it was last agreed on; {} for another date.
    def baseline(date)
      data = @settings[BASELINE] || {}
      data["date"] == date ? data["done"] : {}
    end

    # done: {job number => minutes}.
    def save_baseline(date, done, by:, at:)
      @settings.keep(BASELINE, { "date" => date, "done" => done }, by: by, at: at)
    end

    # Puts a step (or PART) of a job's day somewhere. payload: Hash.
    def mark(record, date, step, payload, by:, at:)
      row = { payload: JSON.generate(payload), at: at, by: by.to_s }
      keys = { job_id: record.id, date: date, step: step }
      @database[:day_marks].insert_conflict(target: keys.keys, update: row).insert(keys.merge(row))
    end

    # Lets go of a mark.
    def unmark(record, date, step)
      @database[:day_marks].where(job_id: record.id, date: date, step: step).delete
    end

    # {[job id, step] => payload} of a date.
    def marks(date)
      rows = @database[:day_marks].where(date: date).select_map(%i[job_id step payload])
      rows.to_h { |job_id, step, payload| [[job_id, step], JSON.parse(payload)] }
    end

    # {step rule => [median minutes, times]} between signatures of one job that came soon after one another.
    def learned
      rows = @database[:entries].where(kind: "step").reverse(:id).limit(MOST).select_map(%i[job_id payload at])
      rows
        .group_by(&:first)
        .flat_map { |_, list| spans(list.reverse) }
        .group_by(&:first)
        .transform_values { |pairs| [Gadwall::Quantity::Statistics.median(pairs.map(&:last)), pairs.size] }
    end

    private

    def spans(rows)
      rows
        .each_cons(2)
        .filter_map do |(_, _, before), (_, payload, at)|
          data = JSON.parse(payload)
          seconds = Time.iso8601(at) - Time.iso8601(before)
          if data["state"] == "done" && seconds.between?(30, LONGEST_S)
            [data["step"].to_s.split("-").first, seconds / 60]
          end
        end
    end
  end
end
