# frozen_string_literal: true

module Gadwall
  module Training
    module Acts
      # Something done at a stand: with values as a form or a kept stand gives them, {"kind" => id, ...}.
      class Act
        # stand: Stand; given: Hash with String keys.
        def initialize(stand, given)
          @stand = stand
          @given = given
        end

        # Does it. Returns a Stand::Done. Raises InputError, UnknownNameError; what is refused changes nothing.
        def perform
          raise NotImplementedError, "#{self.class} does not say what it does"
        end

        private

        attr_reader :stand, :given

        def vehicle
          stand.vehicle
        end

        def system
          stand.system
        end

        def state
          stand.state
        end

        def circuit
          @circuit ||= system.circuit_named(given["circuit"])
        end

        def connector
          @connector ||= circuit.harness.connector(given["joint"].to_s)
        end

        def say(text, **more)
          Stand::Done.new(kind: given["kind"], text: text, **more)
        end

        def refuse(field, given, expected, fix = nil)
          raise InputError.new(field: field, given: given, expected: expected, fix: fix)
        end

        # value: as it was given; known: Array of texts. Returns it as one of them.
        def one_of(field, value, known)
          return value.to_s if known.include?(value.to_s)

          refuse(field, value.to_s, "#{known[0..-2].join(", ")} or #{known.last}")
        end

        # Two different test points of the circuit, as nodes.
        def probes
          nodes = given.values_at("a", "b").map(&:to_s)
          nodes.each { |node| refuse("probe", node, "a test point of the circuit") unless point?(node) }
          refuse("probe", nodes.first, "two different test points") if nodes.uniq.size == 1
          nodes
        end

        def point?(node)
          %w[ground battery].include?(node) || stand.point?(circuit.harness, node)
        end

        LOOK_MINUTES = 1.0 # demo

        # The first test of this behaviour at a place, done; otherwise: what is said where there is none.
        def by_hand_at(place, behaviour, otherwise)
          test = circuit.model.tests.values.find { |each| each.behaviour.is_a?(behaviour) && each.place == place }
          stand.spend(LOOK_MINUTES)
          test ? by_hand(circuit, test) : say(otherwise)
        end

        # A test done as its text says, with the way to it.
        def by_hand(circuit, test)
          stand.spend(test.minutes + test.access.sum { |_, minutes| minutes })
          result = stand.examiner.perform(circuit, test)
          words = result.is_a?(Quantity::Reading) ? result.to_s : test.outcomes.fetch(result)
          say(words, value: result, test: "#{circuit.id}.#{test.id}")
        end

        # Ends where the way to a circuit leads past high voltage or stored pressure that was not taken away; nil where
        # it may be gone.
        def past(circuit)
          return unless Diagnosis::Cautions.on_the_way(circuit, system.sheet).include?("high_voltage")
          return stand.ends("high_voltage") unless stand.safe?("zero:high_voltage")

          stand.ends("no_voltage") unless stand.safe?("prove:no_voltage")
        end

        # Why modules refused, in words. answers: of the interface.
        def refusal(answers)
          code = answers.filter_map(&:refusal).first or return "no module answers to it"
          system.catalogue.refusal(code)
        end
      end
    end
  end
end
