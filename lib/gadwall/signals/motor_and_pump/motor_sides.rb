# frozen_string_literal: true

module Gadwall
  module Signals
    # The park-brake motors of one axle against each other (common practice: the other side is the limit value nobody
    # printed).
    module MotorSides
      DIFFER = 0.3 # of the larger; common practice: within a third is alike; from memory
      PHASES = { "free_run" => "free run", "clamp" => "clamp" }.freeze

      # left, right: Hashes as `capture` prints them, with String keys. Returns [[what, unit, left, right, alike?],
      # ...].
      def self.rows(left, right)
        phases = PHASES.map { |id, name| [name, "A", level(left, id), level(right, id)] }
        [*phases, ["stroke", "s", stroke(left), stroke(right)]].select { |row| row[2] || row[3] }
          .map { |row| [*row, alike?(row[2], row[3])] }
      end

      # In one sentence.
      def self.words(left, right)
        apart = rows(left, right).reject(&:last)
        return "Left and right are the same." if apart.empty?

        "Left and right differ in #{apart.map(&:first).join(", ")}: the slower or weaker side's feed is measured " \
          "under load first, then its motor."
      end

      def self.level(analysis, phase)
        analysis["phases"].to_a.find { |each| each["name"] == phase }&.fetch("level_a")
      end

      def self.stroke(analysis)
        phases = analysis["phases"].to_a
        phases.empty? ? nil : (phases.last["end_s"] - phases.first["start_s"]).round(2)
      end

      def self.alike?(left, right)
        !left.nil? && !right.nil? && (left - right).abs <= DIFFER * [left, right].max
      end
      private_class_method :level, :stroke, :alike?
    end
  end
end
