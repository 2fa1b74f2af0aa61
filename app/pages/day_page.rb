# frozen_string_literal: true

module Web
  module Pages
    # The day: lanes by person and place, what is late, what to do next, and what changed.
    class DayPage < Page
      # A vehicle of the day. done, promised: texts; late: minutes; part: when its part arrives, or nil;
      # stands: in what state the vehicle is, "" where nothing is open.
      Row = Struct.new(:number, :name, :done, :promised, :late, :part, :stands, keyword_init: true)

      attr_reader :day, :person

      # day: DayDesk::Day; hours: Gadwall::Scheduling::WorkshopHours; person: who is at the bench, or nil.
      def initialize(day, hours, person:, errors: {}, typed: {})
        super(nil, errors: errors, typed: typed)
        @day = day
        @hours = hours
        @person = person
      end

      def title
        "The day"
      end

      def schedule
        day.planned.schedule
      end

      def figure
        lanes = @hours.resources.select { |each| each.kind == "person" || schedule.lane(each.id).any? }
        Svg::DayFigure.new(day, lanes).to_s
      end

      # One sentence: how the day stands.
      def sentence
        late = schedule.late.select { |_, minutes| minutes.positive? }
        return "Nothing is left to do today." if schedule.slots.empty?
        return "Everything in time. Last work ends #{clock_of(schedule.makespan)}." if late.empty?

        worst = late.max_by(&:last)
        "#{late.size} #{late.size == 1 ? "vehicle" : "vehicles"} late, #{worst.first} the most: #{span(worst.last)}."
      end

      # What does not fit today: [[job, step, when, why], ...].
      def misfits
        schedule.misfits.map do |slot, resource|
          hours = resource.windows.map { |from, to| "#{clock_of(from)} to #{clock_of(to)}" }.join(" and ")
          [slot.job, slot.step.title, clock_of(slot.to), "#{resource.name} is there #{hours}"]
        end
      end

      # What the person at the bench does next: [sentence, address], nil for nothing.
      def next_thing
        slot = person && day.next_for(person)
        slot ||= schedule.slots.select { |each| each.step.attended }.min_by(&:from)
        return unless slot

        who = slot.uses.find { |id| @hours.people.include?(id) }
        ["#{who}: #{slot.job}, #{slot.step.title}, #{clock_of(slot.from)}", "/jobs/#{slot.job}"]
      end

      # Array of Row, the most late first.
      def rows
        schedule
          .problem
          .jobs
          .map do |job|
            Row.new(
              number: job.id,
              name: job.name,
              done: clock_of(schedule.done_at(job.id)),
              promised: job.promised && clock_of(job.promised),
              late: schedule.late.fetch(job.id),
              part: day.parts[job.id] && Gadwall::Scheduling::Clock.text(day.parts[job.id]),
              stands: day.stands.fetch(job.id, []).join(" · ")
            )
          end
          .sort_by { |row| [-row.late, row.done] }
      end

      # How good it is, in words.
      def quality
        return "No day is better than this one." if day.planned.optimal

        total = schedule.late.values.sum
        "#{total} min late in all, at least #{day.planned.late_at_least} whatever is done; " \
          "hands wait #{schedule.idle} min, #{schedule.moves} moves between vehicles."
      end

      # Lines of the settings, as typed or as they stand.
      def lines(field)
        typed[field] || Array(@hours.lines[field]).join("\n")
      end

      # In words: "35 min", "2 h 10 min", "3 days".
      def span(minutes)
        return "#{minutes} min" if minutes < 90
        return "#{minutes / 60} h #{minutes % 60} min" if minutes < 1440

        "#{(minutes / 1440.0).round} days"
      end

      # A time of today; of another day with how many days off.
      def clock_of(minutes)
        days = minutes.div(1440)
        text = Gadwall::Scheduling::Clock.text(minutes % 1440)
        return text if days.zero?

        "#{text} (#{days.positive? ? "+" : "−"}#{days.abs} d)"
      end
    end
  end
end
