# frozen_string_literal: true

module Gadwall
  module Signals
    # The pump of an accumulator by its run and rest alone, from a curve or from a stop-watch ("runs 20, rests 5"):
    # handbook: flow balance, from memory. What the pump delivers while it runs is what leaks away in run and rest
    # together.
    class PumpCycle
      include Findings

      attr_reader :run_s, :rest_s

      # run_s, rest_s: seconds, of a pedal left alone. Raises InputError.
      def initialize(run_s:, rest_s:, catalogue: Knowledge.catalogue)
        { "run" => run_s, "rest" => rest_s }.each do |field, given|
          unless given.is_a?(Numeric) && given.positive? && given.finite?
            raise InputError.new(field: field, given: given, expected: "seconds above 0, of a pedal left alone")
          end
        end
        @run_s = run_s
        @rest_s = rest_s
        @limits = catalogue.signal
        @findings = []
        judge
      end

      # Run over run and rest.
      def duty_cycle
        run_s / (run_s + rest_s).to_f
      end

      # Fluid that leaks away, mL/s, with a pump of the usual size.
      def leak_ml_s
        limit("pump_ml_s") * duty_cycle
      end

      # Fluid between cut-out and cut-in, mL: lost in each rest, won back in each run.
      def fluid_ml
        leak_ml_s * rest_s
      end

      # What gas so little fluid stands for, bar; at least none.
      def precharge_bar
        [
          Gas.precharge_from_fluid(
            fluid_ml,
            high_bar: limit("cut_out_bar"),
            low_bar: limit("cut_in_bar"),
            shell_ml: limit("shell_ml")
          ),
          0.0
        ].max
      end

      # As `capture` prints a pressure.
      def to_h
        {
          signal: "pump_pressure",
          run_s: run_s,
          rest_s: rest_s,
          duty: duty_cycle.round(3),
          leak_ml_s: leak_ml_s.round(2),
          fluid_ml: fluid_ml.round(1),
          precharge_bar: (precharge_bar.round(1) if short?),
          verdict: findings.empty? ? "clean" : "faulty",
          findings: findings
        }.compact
      end

      private

      def short?
        run_s < limit("pump_short_run_s")
      end

      def judge
        return if rest_s >= limit("pump_burst_rest_s")

        if short?
          add(
            "short_cycling",
            0.88,
            "Runs #{run_s.round(1)} s, rests #{rest_s.round(1)} s: short, frequent cycles: gas precharge lost.",
            run_s: run_s.round(2),
            rest_s: rest_s.round(2)
          )
        else
          add(
            "leaks_down",
            0.9,
            "Runs #{run_s.round(1)} s, rests #{rest_s.round(1)} s: it cannot hold pressure. Internal or external leak.",
            run_s: run_s.round(2),
            rest_s: rest_s.round(2)
          )
        end
      end
    end
  end
end
