# frozen_string_literal: true

module Web
  module Forms
    # Warning lamps as they were touched: those that are lit, when, and whether all others stay out.
    class LampsForm
      attr_reader :lit, :time

      # input: Input.
      def initialize(input)
        @lit = input.list("lamps")
        @time = input.text_or_nil("lamp_time")
        @others_out = input.text("lamps_out") == "1"
      end

      # What is wrong with them, as a sentence; nil where nothing is.
      def error
        Gadwall::Job::Acts::NoteLamps.error(act_values, Gadwall::Knowledge.catalogue)
      end

      # Do all others pass their bulb check and stay out?
      def others_out?
        @others_out
      end

      # For Gadwall::Job::Acts::NoteLamps.
      def act_values
        { lit: lit, time: time, others_out: others_out? }
      end
    end
  end
end
