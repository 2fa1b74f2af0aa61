# frozen_string_literal: true

require "time"

module Gadwall
  module Repair
    # The steps of a job, put together from what it touches (data/repairs/steps.yml), with holds and waits.
    class Plan
      Step =
        Struct.new(
          :id,
          :number,
          :title,
          :text,
          :hold,
          :wait_minutes,
          :asks,
          :caution,
          :state,
          :started_at,
          :value,
          :signed_by,
          :open,
          keyword_init: true
        ) do
          def done?
            state == "done"
          end

          # Seconds still to wait at a moment; 0 where no wait runs. now: Time.
          def seconds_left(now)
            return 0 unless wait_minutes && started_at

            [((wait_minutes * 60) - (now - started_at)).ceil, 0].max
          end
        end

      attr_reader :steps

      # sheet: Vehicle::Sheet; jobs: [[suspect, Decision::Options::Choice], ...], what is repaired and how; log:
      # Evidence::Log.
      def initialize(sheet, jobs, log)
        @catalogue = log.system.catalogue
        @words = jobs.flat_map { |suspect, choice| words(sheet, suspect, choice) }.uniq
        @entries = log.of("step")
        @steps = build.freeze
      end

      # The first step not done whose turn it is.
      def next_step
        steps.find { |step| !step.done? && step.open }
      end

      def done?
        steps.all?(&:done?)
      end

      def step(id)
        steps.find { |step| step.id == id } or
          raise UnknownNameError.new(field: "step", given: id, known: steps.map(&:id))
      end

      # Takes a step's entry, or raises InputError: not yet open, a wait still running, a figure out of range.
      # value: text typed; now: Time. Returns the value to keep.
      def accept(id, value, now)
        step = step(id)
        unless step.open
          raise InputError.new(
                  field: "step",
                  given: step.title,
                  expected: "the steps before it signed",
                  fix: "Sign '#{next_step&.title}' first."
                )
        end
        raise InputError.new(field: "step", given: step.title, expected: "a step that is not signed yet") if step.done?

        left = step.seconds_left(now)
        if left.positive?
          raise InputError.new(
                  field: "wait",
                  given: "#{left} s left",
                  expected: "the wait to run out",
                  fix: "Sign when the clock shows 0."
                )
        end
        if step.wait_minutes && step.started_at.nil?
          raise InputError.new(
                  field: "wait",
                  given: "not begun",
                  expected: "the clock started first",
                  fix: "Press 'Start the wait'."
                )
        end

        figure(step, value)
      end

      private

      # Repairs with a step of their own; what else is renewed shares one.
      OWN_STEP = %w[mend_wire mend_joint renew_sensor renew_ring clean_ring renew_module].freeze
      ADJUSTED = %w[calibrate code_module write_parameters remount].freeze

      def words(sheet, suspect, choice)
        if choice.id == "watch"
          return [
            "always",
            *choice.needs,
            "recall",
            *("accumulator" if sheet.booster == "electric_pump"),
            sheet.park_brake
          ]
        end

        [
          "always",
          *repair_words(sheet, suspect),
          *choice.needs,
          *("accumulator" if sheet.booster == "electric_pump"),
          sheet.park_brake
        ]
      end

      def repair_words(sheet, suspect)
        repair = suspect.repair
        module_work = repair == "renew_module"
        wheel = suspect.circuit.wheel? && !module_work
        work =
          if OWN_STEP.include?(repair)
            repair
          else
            ADJUSTED.include?(repair) ? "adjust" : "part"
          end
        [
          work,
          *("wheel" if wheel),
          *("rear" if wheel && suspect.circuit.id.start_with?("rear")),
          *("module" if module_work),
          *("bleed" if opens_hydraulics?(sheet, suspect)),
          *("high_voltage" if module_work && sheet.power != "combustion")
        ]
      end

      # A module in one piece with its hydraulic unit takes the lines with it.
      def opens_hydraulics?(sheet, suspect)
        suspect.repair == "renew_module" && suspect.circuit.module == "abs" && sheet.unit == "one_piece"
      end

      def build
        open = true
        rows = @catalogue.steps.values.select { |row| (row["when"] - @words).empty? }
        rows.each_with_index.map do |row, i|
          step = step_from(row, i + 1, open)
          open &&= step.done? || !step.hold
          step
        end
      end

      def step_from(row, number, open)
        entries = @entries.select { |entry| entry["step"] == row["id"] }
        done = entries.find { |entry| entry["state"] == "done" }
        started = entries.find { |entry| entry["state"] == "started" }
        Step.new(
          id: row["id"],
          number: number,
          title: row["title"],
          text: row["text"],
          hold: row["hold"],
          wait_minutes: row["wait_minutes"],
          asks: row["asks"],
          caution: row["caution"] && @catalogue.cautions.dig(row["caution"], "text"),
          open: open,
          state:
            if done
              "done"
            else
              started ? "started" : "open"
            end,
          started_at: started && time(started["at"]),
          value: done && done["value"],
          signed_by: done && done["by"]
        ).freeze
      end

      def time(text)
        Time.iso8601(text)
      end

      def figure(step, value)
        return value.to_s.strip unless step.asks

        number = Float(value.to_s.strip.tr(",", "."), exception: false)
        low, high = step.asks.values_at("low", "high")
        return value.to_s.strip if number&.between?(low, high)

        raise InputError.new(
                field: step.asks["label"],
                given: value,
                expected: "a number from #{low} to #{high} #{step.asks["unit"]}",
                fix: "Take it from the vehicle's own data or the meter."
              )
      end
    end
  end
end
