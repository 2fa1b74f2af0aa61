# frozen_string_literal: true

module Web
  module Routes
    # The day: lanes, moving a step, a part that is late, who works here, and the day as a calendar file.
    module Day
      STEP = /\A[\w.-]{1,160}\z/

      def self.registered(app)
        app.get("/day") { show_day }

        # What the person at the bench does next, asked for once the page stands.
        app.get("/day/next") do
          thing = meanwhile(but: input.text_or_nil("but"))
          label = input.text("label") == "wait" ? "While it waits" : "Next for you"
          thing ? partial("day/_next", label: label, thing: thing) : ""
        end

        app.get("/day.ics") do
          content_type "text/calendar"
          headers "content-disposition" => "attachment; filename=\"day.ics\""
          Calendar.of(days.day(now), now.localtime)
        end

        # A step goes where a hand put it; the rest is planned around it.
        app.post("/day/move") do
          step = input.text("step")
          record = workshop.dossier(input.text("job")).record
          raise BadInput, "No step of ours." unless step.match?(STEP)

          day = days.day(now)
          if input.given?("free")
            days.store.unmark(record, day.date, step)
          else
            payload = { "from" => moved_to(day), "uses" => input.list("uses").reject(&:empty?) }
            days.store.mark(record, day.date, step, payload, by: person, at: now.iso8601)
          end
          day_after_act
        end

        app.post("/day/part") do
          record = workshop.dossier(input.text("job")).record
          at = Gadwall::Scheduling::Clock.minutes(input.text("at"), field: "at")
          day = days.day(now)
          days.store.mark(record, day.date, Store::DayStore::PART, { "at" => at }, by: person, at: now.iso8601)
          day_after_act
        rescue Gadwall::InputError => error
          status 422
          show_day(errors: { "part" => error.message })
        end

        app.post("/day/agree") do
          days.agree(now, by: person)
          redirect "/day", 303
        end

        app.post("/day/hours") do
          lines = %w[people places tools].to_h { |name| [name, input.raw(name).split(/\r?\n/)] }
          hours = Gadwall::Scheduling::WorkshopHours.new(lines.merge("start" => input.text("start")))
          days.store.save_hours(hours, by: person, at: now.iso8601)
          redirect "/day", 303
        rescue Gadwall::InputError => error
          status 422
          typed = %w[people places tools start].to_h { |name| [name, input.raw(name)] }
          show_day(errors: { error.field => error.message }, typed: typed)
        end

        app.helpers Showing
      end

      # The day's page and its parts.
      module Showing
        def days
          settings.days
        end

        # On the workshop's own record, whatever the address.
        def show_day(**more)
          days.begin_day(now, by: person)
          page = Pages::DayPage.new(days.day(now), days.store.hours, person: person, **more)
          htmx? ? partial("day/_lanes", page: page) : show(page)
        end

        # After an act the page shows the day as it is now planned.
        def day_after_act
          htmx? ? show_day : redirect("/day", 303)
        end

        # Minutes from midnight, no earlier than now.
        def moved_to(day)
          from = input.integer("from") or raise BadInput, "No moment of ours."
          from.clamp(day.now, 4 * 1440)
        end

        # What the person at the bench does next while this job waits: [sentence, address], or nil. but: its number.
        def meanwhile(but:)
          slot =
            person &&
              days.recent(now).planned.schedule.lane(person).find { |each| each.step.attended && each.job != but }
          slot && ["#{slot.job}: #{slot.step.title}", "/jobs/#{slot.job}"]
        end
      end
    end
  end
end
