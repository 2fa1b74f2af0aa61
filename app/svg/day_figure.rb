# frozen_string_literal: true

module Web
  module Svg
    # The day as lanes: a line for each person, place and tool, work solid, waits hatched, a line where it is now.
    class DayFigure
      WIDTH = 1240.0
      LEFT = 150.0
      LANE = 46.0
      TOP = 30.0
      LEAST_SPAN = 240
      RUN_GAP = 3 # minutes between pieces of one run
      NARROW = 26.0 # pixels below which a slot's words do not fit

      # day: DayDesk::Day; lanes: Array of Gadwall::Scheduling::Resource; chosen: id of a step that is being moved, or
      # nil.
      def initialize(day, lanes, chosen: nil)
        @day = day
        @schedule = day.planned.schedule
        @lanes = lanes
        @chosen = chosen
        @svg = Element.new
        @from = (day.now / 30) * 30
        @to = [@schedule.makespan, @from + LEAST_SPAN].max + 15
      end

      def to_s
        height = TOP + (@lanes.size * LANE) + 8
        @svg.tag(
          :svg,
          viewBox: "0 0 #{WIDTH.round} #{height.round}",
          class: "day-figure",
          role: "group",
          aria_label: "The day in lanes",
          data_from: @from,
          data_scale: scale.round(5)
        ) do
          @svg.hatching("day-hatch")
          hours(height)
          @lanes.each_with_index { |lane, i| lane(lane, i) }
          now_line(height)
        end
        @svg.to_s
      end

      private

      def scale
        (WIDTH - LEFT - 10) / (@to - @from)
      end

      def x_of(minutes)
        LEFT + ((minutes - @from) * scale)
      end

      def hours(height)
        step = @to - @from > 900 ? 120 : 60
        ((@from / 60.0).ceil * 60).step(@to, step) do |minute|
          x = x_of(minute)
          @svg.tag(:line, x1: x, x2: x, y1: TOP - 8, y2: height - 8, class: "day-hour")
          @svg.tag(:text, Gadwall::Scheduling::Clock.text(minute % 1440), x: x, y: 16, class: "day-clock")
        end
      end

      def lane(resource, index)
        y = TOP + (index * LANE)
        @svg.tag(:line, x1: 0, x2: WIDTH, y1: y, y2: y, class: "day-rule")
        @svg.tag(:text, resource.name, x: 6, y: y + 28, class: "day-name")
        slots = @schedule.lane(resource.id)
        slots.each { |slot| slot(slot, resource, y) }
        slots
          .chunk_while { |one, other| one.job == other.job && other.from - one.to < RUN_GAP }
          .each { |run| name(run, y) }
      end

      # What runs of one vehicle's pieces are called: its number, and the first piece where it fits.
      def name(run, y)
        x = x_of(run.first.from)
        width = (run.last.to - run.first.from) * scale
        return if width < NARROW

        @svg.tag(:text, clipped(run.first.job, width), x: x + 4, y: y + 20, class: "slot-job")
        @svg.tag(:text, clipped(run.first.step.title, width), x: x + 4, y: y + 35, class: "slot-title")
      end

      def slot(slot, resource, y)
        x = x_of(slot.from)
        width = [(slot.to - slot.from) * scale, 3.0].max
        movable = resource.kind == "person" && slot.step.attended
        @svg.tag(:g, **attributes(slot, resource, movable)) do
          @svg.tag(:title, "#{words(slot)}, #{times(slot)}")
          @svg.tag(:rect, x: x, y: y + 4, width: width, height: LANE - 8, rx: 3, class: "slot-box")
        end
      end

      def attributes(slot, resource, movable)
        kind = slot.step.attended ? "slot" : "slot wait"
        kind = "#{kind} late" if @schedule.late.fetch(slot.job, 0).positive?
        kind = "#{kind} fixed" if @day.fixed.key?(slot.step.id)
        more = {}
        if movable
          more = {
            tabindex: 0,
            role: "button",
            data_step: slot.step.id,
            data_job: slot.job,
            data_from: slot.from,
            data_uses: resource.id,
            data_may: JSON.generate(able(slot)),
            aria_label: "#{words(slot)}, #{times(slot)}: arrow keys move it",
            id: "slot-#{slot.step.id.gsub(/[^\w-]/, "-")}"
          }
        end
        { class: kind, **more }
      end

      # Who may do it: names of people.
      def able(slot)
        slot.step.needs.flatten & @lanes.select { |lane| lane.kind == "person" }.map(&:id)
      end

      def words(slot)
        "#{slot.job} #{slot.step.title}"
      end

      def times(slot)
        "#{Gadwall::Scheduling::Clock.text(slot.from)} to #{Gadwall::Scheduling::Clock.text(slot.to)}"
      end

      # As many letters as fit.
      def clipped(text, width)
        most = (width / 7.4).floor
        text.length > most ? text[0, [most - 1, 1].max] : text
      end

      def now_line(height)
        x = x_of(@day.now)
        @svg.tag(:line, x1: x, x2: x, y1: TOP - 12, y2: height - 6, class: "day-now")
        @svg.tag(
          :text,
          "now #{Gadwall::Scheduling::Clock.text(@day.now)}",
          x: x + 4,
          y: TOP - 2,
          class: "day-now-words"
        )
      end
    end
  end
end
