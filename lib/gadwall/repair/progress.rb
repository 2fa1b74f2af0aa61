# frozen_string_literal: true

require "time"

module Gadwall
  module Repair
    # How far a plan is: each of its steps with what was begun and signed.
    class Progress
      # A Step with its number and state: "open", "started", "done" or "not_needed". started_at: Time or nil; value:
      # text kept; signed_by, signed_at: who and when, or nil; reachable: is it its turn, all holds before it signed?
      Row =
        Struct.new(
          :step,
          :number,
          :state,
          :started_at,
          :value,
          :reason,
          :signed_by,
          :signed_at,
          :reachable,
          keyword_init: true
        ) do
          # Id of the step.
          def id
            step.id
          end

          # Title of the step.
          def title
            step.title
          end

          # Signed, or not needed.
          def done?
            %w[done not_needed].include?(state)
          end

          # Does its timer run, or has it run out without being signed?
          def waiting?
            state == "started"
          end

          # When the wait is over: Time, or nil where none runs.
          def ready_at
            step.wait_minutes && started_at && (started_at + (step.wait_minutes * 60))
          end

          # Seconds still to wait at a moment; 0 where no wait runs. now: Time.
          def seconds_left(now)
            ready_at ? [(ready_at - now).ceil, 0].max : 0
          end
        end

      attr_reader :rows

      # steps: Array of Step; signed: {step id => Array of Job::Entries::Step that count for this plan}.
      def initialize(steps, signed)
        @signed = signed
        @rows = build(steps).freeze
        freeze
      end

      # Is every step done, or not needed?
      def done?
        rows.all?(&:done?)
      end

      # How many steps are.
      def done_count
        rows.count(&:done?)
      end

      # The first step not done whose turn it is, or nil.
      def next_row
        rows.find { |row| !row.done? && row.reachable }
      end

      # Rows whose timer runs.
      def waits
        rows.select { |row| row.waiting? && row.ready_at }
      end

      # id: of a step. Raises UnknownNameError.
      def row(id)
        rows.find { |row| row.id == id } or raise UnknownNameError.new(field: "step", given: id, known: rows.map(&:id))
      end

      private

      def build(steps)
        reachable = true
        steps.each_with_index.map do |step, i|
          row = row_of(step, i + 1, reachable)
          reachable &&= row.done? || !step.hold
          row
        end
      end

      def row_of(step, number, reachable)
        entries = @signed.fetch(step.id, [])
        last = entries.find { |entry| entry.state != "started" }
        started = entries.find { |entry| entry.state == "started" }
        Row.new(
          step: step,
          number: number,
          state: last&.state || started&.state || "open",
          started_at: started&.at && Time.iso8601(started.at),
          value: last&.value,
          reason: last&.reason,
          signed_by: last&.by,
          signed_at: last&.at,
          reachable: reachable
        ).freeze
      end
    end
  end
end
