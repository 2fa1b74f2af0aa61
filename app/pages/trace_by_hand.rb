# frozen_string_literal: true

module Web
  module Pages
    # The trace screen where tests are chosen by hand and done by instruments: on an exercise, or with an interface.
    module TraceByHand
      # Was the test shown chosen by hand?
      def by_hand?
        @by_hand
      end

      # The circuit without what is known of it, for an exercise.
      def plain_figure
        drawn({}, by_hand? ? option : nil)
      end

      # Can a diagnostic interface do the test shown?
      def by_interface?
        needs.include?("scan tool")
      end

      DRIVEN = %w[pump valves park_brake_motor cable_puller].freeze # families whose output a module drives

      # Does a module drive a pump, valve or motor of the circuit shown?
      def driven?
        DRIVEN.include?(circuit.family)
      end

      # Circuits of the vehicle, for choosing by hand: [[id, title, chosen], ...].
      def all_circuits
        @assessment.system.circuits.map { |each| [each.id, each.title, each == circuit] }
      end
    end
  end
end
