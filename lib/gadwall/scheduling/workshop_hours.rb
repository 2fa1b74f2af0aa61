# frozen_string_literal: true

module Gadwall
  module Scheduling
    # Who works here, when, with what licence; lifts, pits and tools. Frozen.
    class WorkshopHours
      LINE = /\A(?<name>[^;]{1,60})(?:;(?<words>[^;]*))?(?:;\s*(?<from>\d{1,2}:\d\d)\s*-\s*(?<to>\d{1,2}:\d\d)\s*)?\z/
      MOST_LINES = 60 # of each: no workshop has more people, lifts or tools to plan
      KINDS = { "people" => "person", "places" => "place", "tools" => "tool" }.freeze
      # Where nobody set anything; demo.
      DEFAULT = {
        "start" => "08:00",
        "people" => ["Technician; high_voltage; 08:00-17:00"],
        "places" => ["Lift 1; lift"],
        "tools" => ["Diagnostic interface; interface", "Battery support unit; battery_support"]
      }.freeze

      attr_reader :lines

      # lines: {"start" => "08:00", "people" => ["N. Ashgrove; high_voltage; 08:00-17:00", ...], "places" =>, "tools"
      # =>}: name; skills or kinds with commas; hours. Raises InputError that names the field.
      def initialize(lines = DEFAULT)
        @lines = DEFAULT.merge(lines).freeze
        @start = Clock.minutes(@lines["start"], field: "start")
        @resources = KINDS.flat_map { |field, kind| read(field, kind) }.freeze
        names = @resources.map(&:id)
        twice = names.tally.find { |_, count| count > 1 }&.first
        raise InputError.new(field: "people", given: twice, expected: "each name once") if twice

        freeze
      end

      # Minutes from midnight; Array of Resource.
      attr_reader :start, :resources

      # For the store.
      def to_h
        lines
      end

      # People of a skill, or all: ids.
      def people(skill = nil)
        of("person").select { |each| skill.nil? || each.able?([skill]) }.map(&:id)
      end

      # Places or tools of a kind: ids.
      def named(kind, word)
        of(kind).select { |each| each.able?([word]) }.map(&:id)
      end

      private

      def of(kind)
        resources.select { |each| each.kind == kind }
      end

      def read(field, kind)
        list = Array(@lines[field]).map { |line| line.to_s.strip }.reject(&:empty?)
        raise InputError.new(field: field, given: "", expected: "one line at least") if list.empty? && field == "people"

        if list.size > MOST_LINES
          raise InputError.new(field: field, given: "#{list.size} lines", expected: "at most #{MOST_LINES} lines")
        end

        list.map { |line| resource(line, field, kind) }
      end

      def resource(line, field, kind)
        match = LINE.match(line)
        unless match
          raise InputError.new(
                  field: field,
                  given: line,
                  expected: "a name; what it can do, with commas; hours, such as N. Ashgrove; high_voltage; 08:00-17:00"
                )
        end
        Resource.new(
          id: match[:name].strip,
          name: match[:name].strip,
          kind: kind,
          skills: match[:words].to_s.split(",").map(&:strip).reject(&:empty?),
          windows: hours(match, field)
        ).freeze
      end

      def hours(match, field)
        return [] unless match[:from]

        [[Clock.minutes(match[:from], field: field), Clock.minutes(match[:to], field: field)]]
      end
    end
  end
end
