# frozen_string_literal: true

require "icalendar"

module Web
  # The day as an iCalendar file (RFC 5545): an event for each piece of work and each wait.
  module Calendar
    # day: DayDesk::Day; now: Time, local. Returns text.
    def self.of(day, now)
      midnight = Time.new(now.year, now.month, now.day)
      calendar = Icalendar::Calendar.new
      calendar.prodid = "-//Gadwall//day//EN"
      day.planned.schedule.slots.each { |slot| event(calendar, slot, midnight, now) }
      calendar.to_ical
    end

    def self.event(calendar, slot, midnight, now)
      calendar.event do |each|
        each.uid = "#{midnight.strftime("%F")}-#{slot.step.id}@gadwall"
        each.dtstamp = utc(now)
        each.dtstart = utc(midnight + (slot.from * 60))
        each.dtend = utc(midnight + (slot.to * 60))
        each.summary = "#{slot.job} #{slot.step.title}"
        each.description = slot.uses.join(", ")
      end
    end

    def self.utc(time)
      Icalendar::Values::DateTime.new(time.getutc, "tzid" => "UTC")
    end
    private_class_method :event, :utc
  end
end
