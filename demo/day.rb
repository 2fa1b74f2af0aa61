# frozen_string_literal: true

require "yaml"

module Demo
  # A full day in the demo workshop: three people of whom one may do high voltage, two lifts, a part that is late, a
  # module that programs by itself. Times count from now.
  module Day
    FILE = File.join(__dir__, "day.yml")
    BY = "N. Ashgrove"

    # workshop: Web::Workshop with the demo jobs in it; now: Time.
    def self.load(workshop, now: workshop.now)
      data = YAML.safe_load_file(FILE)
      local = now.localtime
      minute = (local.hour * 60) + local.min
      from = [((minute / 60) - data["hours_before_now"]) * 60, 0].max
      workshop.days.save_hours(hours(data, from, from + (data["hours"] * 60)), by: BY, at: now.iso8601)
      data["promised"].each { |number, hours| promise(workshop, number, now + (hours * 3600), now) }
      data["parts"].each { |number, hours| part(workshop, number, local, minute + (hours * 60).round, now) }
    end

    def self.hours(data, from, to)
      span = "#{Gadwall::Scheduling::Clock.text(from)}-#{Gadwall::Scheduling::Clock.text(to)}"
      people = data["people"].map { |row| "#{row["name"]}; #{row["skills"]}; #{span}" }
      Gadwall::Scheduling::WorkshopHours.new(
        "start" => Gadwall::Scheduling::Clock.text(from),
        "people" => people,
        "places" => data["places"],
        "tools" => data["tools"]
      )
    end

    def self.promise(workshop, number, at, now)
      values = { promised_at: at.iso8601 }
      said = Time.iso8601(workshop.dossier(number).log.entries.last.at)
      workshop.perform(number, Gadwall::Job::Acts::Promise, values, by: BY, at: [said, now].min) do |job|
        "/jobs/#{job.number}"
      end
    end

    def self.part(workshop, number, local, minute, now)
      record = workshop.dossier(number).record
      mark = { "at" => minute }
      workshop.days.mark(record, local.strftime("%F"), Store::DayStore::PART, mark, by: BY, at: now.iso8601)
    end
    private_class_method :hours, :promise, :part
  end
end
