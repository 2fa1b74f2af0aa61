# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # How well a fault fits the warning lamps that were noted (data/vehicle/lamps.yml): those that are lit must be lit
    # by something, those that stay out speak against what would light them.
    #
    # By itself a lit lamp names no circuit, a message does. What can light it keeps its prior; what cannot is as rare
    # as one that a second cause lights (OTHER_CAUSE). With several lamps the shares multiply, so that one cause of all
    # of them leads; but where several circuits have a code, each needs to explain only what the others do not.
    class LampWeights
      # From memory: one lamp in twenty is lit by another cause than the one looked for, one message in a hundred.
      OTHER_CAUSE = { "lamp" => 0.05, "message" => 0.01 }.freeze
      OVERLOOKED = 0.1 # from memory: a lit lamp is overlooked, or its driver forgets it, one time in ten
      UNTIMELY = 0.35 # from memory: how often a lamp comes on at another time than its fault's monitor runs

      # circuit: Vehicle::System::Circuit; lamps: Array of Observations::Lamp; catalogue: for data/vehicle/lamps;
      # elsewhere: {lamp id => chance that a circuit with a code of its own lights it}.
      def initialize(circuit, lamps, catalogue, elsewhere = {})
        @circuit = circuit
        @model = circuit.model
        @lamps = lamps
        @catalogue = catalogue
        @elsewhere = elsewhere
      end

      # What one lamp says of faults of several circuits that are there together, 0..1. members: [[LampWeights, indices
      # of atoms], ...].
      def self.of_members(members, lamp)
        dark = members.reduce(1.0) { |product, (weights, atoms)| product * (1 - weights.chance(lamp, atoms)) }
        return 1 - ((1 - members.first.first.other_cause(lamp)) * dark) if lamp.lit

        1 - ((1 - OVERLOOKED) * (1 - dark))
      end

      # The chance that one of these atoms lights a lamp while it is there: their mean.
      def chance(lamp, atoms)
        share = Vehicle::Lamps.chance(@catalogue, lamp.id, @circuit)
        share.zero? ? 0.0 : share * lights(lamp, 1.0).values_at(*atoms).sum / atoms.size
      end

      # The chance that something else lights it.
      def other_cause(lamp)
        alone = OTHER_CAUSE.fetch(@catalogue.lamps.fetch(lamp.id)["kind"])
        1 - ((1 - alone) * (1 - @elsewhere.fetch(lamp.id, 0.0)))
      end

      # By atom: the factor on its prior, 0..1.
      def by_atom(presence)
        product = Array.new(@model.atoms.size, 1.0)
        @lamps.each do |lamp|
          share = Vehicle::Lamps.chance(@catalogue, lamp.id, @circuit)
          next weigh_all(product, lamp) if share.zero?

          weigh(product, lamp, share, presence)
        end
        product
      end

      private

      # A lamp that the circuit cannot light says the same of every fault of it.
      def weigh_all(product, lamp)
        return unless lamp.lit

        other = other_cause(lamp)
        product.map! { |value| value * other }
      end

      def weigh(product, lamp, share, presence)
        other = other_cause(lamp)
        chances = lights(lamp, presence)
        i = -1
        product.map! do |value|
          lit = share * chances[i += 1]
          value * (lamp.lit ? other + ((1 - other) * lit) : 1 - ((1 - OVERLOOKED) * lit))
        end
      end

      # By atom: the chance that its monitors see it at the time when the lamp was lit. A module without power lights
      # its lamps by saying nothing.
      def lights(lamp, presence)
        time = lamp.time if TIMED.include?(lamp.time)
        @model.cached([:lights, time, presence]) { seen_at(time, presence).freeze }
      end

      TIMED = %w[at_key_on after_moving above_speed].freeze # times at which only some monitors have run

      def seen_at(time, presence)
        monitors = @model.monitors
        seen = monitors.raised(monitors.claims, presence)
        seen = timed(seen, time, presence) if time
        unpowering = @model.unpowering or return seen

        seen.each_with_index.map { |chance, i| [chance, unpowering[i] * 0.95].max }
      end

      # Held to the monitors that run at that time.
      def timed(seen, time, presence)
        monitors = @model.monitors
        key_on, driving = monitors.claims.partition { |claim| monitors.key_on?([claim]) }
        fitting = monitors.raised(time == "at_key_on" ? key_on : driving, presence)
        seen.each_with_index.map { |chance, i| [fitting[i], chance * UNTIMELY].max }
      end
    end
  end
end
