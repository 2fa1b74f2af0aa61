# frozen_string_literal: true

module Gadwall
  module Training
    # What was done in an exercise, counted for the rubric: each by what was done and what was known when it was done.
    class Conduct
      TENTH = 0.1

      # debrief: Debrief; log: Job::Log; solution: Solver::Solution, or nil.
      def initialize(debrief, log, solution)
        @debrief = debrief
        @stand = debrief.stand
        @log = log
        @solution = solution
      end

      # {id of a row of the rubric => times}.
      def counts
        { **of_safety, **of_method, **of_result, "slow" => slow, "dear" => dear }
      end

      private

      def of_safety
        {
          "ohms_on_a_live_wire" => done.count { |each| each.kind == "meter" && each.warning.to_s.include?("live") },
          "fuse_blown" => blown,
          "plug_pulled_live" => done.count { |each| each.kind == "unplug" && each.awake },
          "battery_run_down" => @debrief.flat? ? 1 : 0
        }
      end

      def of_method
        {
          "codes_cleared_first" => cleared_first? ? 1 : 0,
          "no_scan_before" => @debrief.scanned? ? 0 : 1,
          "repaired_by_guess" => @stand.repairs.all.count { |each| each.right && guessed?(each) },
          "condemned" => @debrief.condemned.size,
          "tests_that_told_nothing" => idle,
          "hint" => @stand.hints
        }
      end

      def of_result
        {
          "fault_left" => @stand.vehicle.wiring.hidden.any? ? 1 : 0,
          "sound_part_repaired" => @debrief.wrong.size,
          "owed" => @stand.owed.any? ? 1 : 0,
          "not_proven" => @debrief.unproven.size
        }
      end

      def done
        @stand.done
      end

      def cleared_first?
        first = done.index { |each| each.kind == "clear" } or return false
        done.first(first).none? { |each| each.kind == "read" } && !@log.scanned?
      end

      # Was it not yet likely by what had been read when the hand went to it?
      def guessed?(repair)
        !@debrief.known?(repair.place, repair.at)
      end

      # Tests beyond those that the advice too would have wasted.
      def idle
        return 0 unless @solution

        theirs = @debrief.advised.count { |row| row.told < Debrief::ENOUGH_BITS }
        [@debrief.path.count { |row| row.told < Debrief::ENOUGH_BITS } - theirs, 0].max
      end

      def slow
        return 0 unless @solution

        twice = [@solution.minutes * 2, 10].max
        over(@debrief.path.sum(&:minutes), twice)
      end

      def dear
        wasted = @stand.repairs.all.reject(&:right).sum(&:price) + (blown * Acts::Fuse::MONEY)
        over(@stand.money, @stand.money - wasted)
      end

      # Fuses of the meter that were blown.
      def blown
        done.count { |each| each.kind == "fuse" }
      end

      # Tenths of what was right, spent beyond it.
      def over(spent, right)
        return 0 if spent <= right
        return 10 unless right.positive?

        ((spent - right) / (right * TENTH)).floor
      end
    end
  end
end
