# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Cautions that the moment calls for: what keeps the vehicle off the road, those of the best next test, of the
    # vehicle, and of the verdict.
    module Cautions
      # Returns [{rule:, text:}, ...], each once.
      def self.for(assessment)
        ids =
          assessment.off_road + vehicle(assessment.system.sheet) +
            assessment.next_tests.first(1).flat_map { |option| of_test(option.test, assessment.system.sheet) } +
            verdict(assessment.verdict)
        ids.uniq.map { |id| { rule: id, text: assessment.system.catalogue.cautions.fetch(id)["text"] }.freeze }
      end

      # Ids of what a test's hand movements call for on this vehicle.
      def self.of_test(test, sheet)
        moves =
          test.access.any? { |key, _| %w[wheel_off drive].include?(key) } || test.cautions.include?("moving_motor")
        test.cautions + (sheet.power != "combustion" && moves ? ["ready_ev"] : [])
      end

      NEAR = %w[accumulator pump valves pressure_sensor module_supply].freeze # families whose way leads past both

      # Ids of a vehicle's own cautions, where the way to a circuit leads past orange cable or stored pressure.
      def self.on_the_way(circuit, sheet)
        NEAR.include?(circuit.family) ? vehicle(sheet) : []
      end

      def self.vehicle(sheet)
        [
          ("high_voltage" unless sheet.power == "combustion"),
          ("accumulator" if sheet.booster == "electric_pump")
        ].compact
      end

      def self.verdict(verdict)
        module_led = verdict.conclusions.any? { |line| line.suspect.repair == "renew_module" && !line.proven? }
        module_led ? ["no_module_yet"] : []
      end
      private_class_method :vehicle, :verdict
    end
  end
end
