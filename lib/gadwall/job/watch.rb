# frozen_string_literal: true

require "time"

module Gadwall
  module Job
    # The watch of a vehicle that left with something to be looked at again: from when, for how many days or kilometres,
    # and how it ended. Read from the log.
    class Watch
      STEPS = %w[watch_days recheck_limit].freeze
      DAY_S = 86_400

      attr_reader :days, :limit_km, :from

      # dossier: Dossier. Returns a Watch, or nil where nothing is watched.
      def self.of(dossier)
        return unless dossier.handed_over? && dossier.log.plan

        rows = dossier.plan.rows.select { |row| STEPS.include?(row.id) && row.state == "done" }
        rows.empty? ? nil : new(dossier, rows)
      end

      # rows: Array of Repair::Progress::Row that set it.
      def initialize(dossier, rows)
        values = rows.map(&:values)
        @days = values.flat_map { |each| each.values_at("days", "recheck_days") }.compact.map(&:to_i).min
        @limit_km = values.filter_map { |each| each["recheck_km"] }.map(&:to_i).min
        @from = Time.iso8601(dossier.log.of(Entries::Handover::KIND).last.at)
        @ended = dossier.log.of(Entries::WatchResult::KIND).any? || dossier.log.of(Entries::Comeback::KIND).any?
        freeze
      end

      # Time at which it is over.
      def due
        from + (days * DAY_S)
      end

      # Was its result entered, or did the vehicle come back?
      def ended?
        @ended
      end

      # The text of "day 3 of 7". now: Time.
      def words(now)
        day = (((now - from) / DAY_S).floor + 1).clamp(1, days)
        now >= due ? "watch of #{days} days is over: enter its result" : "watch, day #{day} of #{days}"
      end
    end
  end
end
