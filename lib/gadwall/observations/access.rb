# frozen_string_literal: true

module Gadwall
  module Observations
    # What a test leaves reached, for the next one.
    module Access
      # Keys of what must be opened for an observation's test: ["front_left/wheel_off", ...].
      def self.keys_of(observation)
        keys(observation.circuit, observation.test)
      end

      # The same of a test of a circuit.
      def self.keys(circuit, test)
        test.access.map { |key, _| key_for(circuit.id, key) } - [key_for(circuit.id, "drive")]
      end

      # A joint, a wheel or a bulb belongs to its circuit; a module plug, a road to the vehicle.
      def self.key_for(circuit_id, key)
        key.start_with?("joint:") || %w[wheel_off bulb].include?(key) ? "#{circuit_id}/#{key}" : key
      end
    end
  end
end
