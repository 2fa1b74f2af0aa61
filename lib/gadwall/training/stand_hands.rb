# frozen_string_literal: true

module Gadwall
  module Training
    # What is done on the stand with an instrument, an eye or a hand: each answer is what would show, with the test that
    # the diagnosis knows it as.
    module StandHands
      MOST_TURNS = 4.0
      READ_MINUTES = 0.4 # of one module, demo
      ACTUATOR = 0x3001 # demo: identifier of the output that a circuit's module drives
      FUSE_MONEY = 4 # demo: a fuse of the meter
      HINT_MINUTES = 5.0 # demo: what a hint costs

      private

      # range: volts, ohms or amperes; a, b: nodes of the circuit.
      def act_meter(act)
        kind = act["range"].to_s
        known = Instruments::Meter::UNITS.keys
        raise UnknownNameError.new(field: "meter", given: kind, known: known) unless known.include?(kind)

        probes = probes(act)
        spend(0.5)
        # On the bench an ammeter is a wire of its own between two points, those of an open contact too.
        shown = meter.read(kind, act["circuit"], probes, state: state.for_circuit(act["circuit"]), clamped: false)
        say(
          "meter",
          shown.text,
          value: Quantity::Reading.new(value: shown.value, unit: shown.unit),
          test: shown.warning ? nil : test_of(act["circuit"], kind, probes),
          warning: shown.warning
        )
      end

      def act_fuse(_act)
        spend(1.0, FUSE_MONEY)
        meter.renew_fuse
        say("fuse", "New fuse in the meter")
      end

      # rev_s: revolutions a second of the wheel, by hand; 0 stands still.
      def act_scope(act)
        rev_s = Float(act["rev_s"] || 0, exception: false).to_f.clamp(0.0, 3.0)
        wheel = circuit(act)
        turns(wheel) if rev_s.positive?
        spend(rev_s.positive? ? 2.0 : 1.0)
        spin = rev_s.positive? ? { "spin" => true, "key" => key_now } : {}
        capture =
          @scope.capture(
            wheel.id,
            probes(act),
            state: state.for_circuit(wheel.id).with(spin),
            turns: [rev_s * 3, MOST_TURNS].min.clamp(0.5, MOST_TURNS),
            rev_s: [rev_s, 0.2].max
          )
        say("scope", swing(capture), capture: capture)
      end

      def key_now
        state.awake? ? "on" : "off"
      end

      # A wheel turns by hand only off the ground.
      def turns(circuit)
        return if lifted? || circuit.corner.nil?

        refuse("wheel", "on the ground", "a lifted vehicle", "Lift it first.")
      end

      def swing(capture)
        low, high = capture.channels.first.values.minmax
        "#{format("%.2f", high - low)} V peak to peak, #{format("%.2f", low)} to #{format("%.2f", high)} V"
      end

      # joint, wire: where the clamp goes round.
      def act_clamp(act)
        wire = act["wire"].to_s
        joint = joint(act)
        spend(1.0)
        sides = ["#{wire}@#{joint.id}.near", "#{wire}@#{joint.id}.far"]
        capture = @clamp.capture(act["circuit"], sides, state: state.for_circuit(act["circuit"]))
        low, high = capture.channels.first.values.minmax
        say("clamp", "#{format("%.2f", [low.abs, high.abs].max)} A at the most", capture: capture)
      end

      def act_look(act)
        by_place(act, Tests::Kinds::Looked, "Nothing to see")
      end

      def act_wiggle(act)
        by_place(act, Tests::Kinds::Moved, "Nothing to wiggle there")
      end

      # The first test of this behaviour at the place.
      def by_place(act, behaviour, otherwise)
        at = circuit(act)
        test = at.model.tests.values.find { |each| each.behaviour.is_a?(behaviour) && each.place == act["place"] }
        spend(1.0)
        return say(act["kind"], otherwise) unless test

        done_by_hand(act["kind"], at, test)
      end

      # test: full id. Done as its text says, with all that it opens; the way is paid for.
      def act_test(act)
        at, test = system.test(act["test"])
        return past(at) || done_by_hand("test", at, test) unless test.access.any? { |name, _| name == "wheel_off" }

        unless lifted? && safe?("stands")
          refuse("test", test.title, "a vehicle on stands", "Chock, lift and put stands under it first.")
        end
        past(at) || done_by_hand("test", at, test)
      end

      def done_by_hand(kind, circuit, test)
        spend(test.minutes + test.access.sum { |_, minutes| minutes })
        result = @examiner.perform(circuit, test)
        words = result.is_a?(Quantity::Reading) ? result.to_s : test.outcomes.fetch(result)
        say(kind, words, value: result, test: "#{circuit.id}.#{test.id}")
      end

      # module: id of its request. Raises Lost where the connection is cut.
      def act_read(act)
        id = act["module"].to_i
        spend(READ_MINUTES)
        read = interface.read_module(id)
        name = vehicle.ecus.find { |ecu| ecu.request_id == id }&.name || id.to_s
        return say("read", "#{name}: no answer") unless read

        say(
          "read",
          "#{name}: #{read.codes.empty? ? "no code" : read.codes.map { |word, _| word.to_s }.join(", ")}",
          read: read
        )
      end

      def act_clear(_act)
        spend(1.0)
        answers = vehicle.speaking.map { |ecu| interface.clear(ecu.request_id)&.positive }
        say("clear", "#{answers.count(true)} modules cleared")
      end

      # id: of data/simulation/routines.
      def act_routine(act)
        row = system.catalogue.routines[act["id"]]
        raise UnknownNameError.new(field: "routine", given: act["id"], known: system.catalogue.routines.keys) unless row

        spend(2.0)
        flat = !state.support && battery_volt < Stand::FLAT_V
        return say("routine", "The battery gave up: #{row["name"]} broken off", warning: "battery flat") if flat

        ran = ran_by(row)
        learned(row) if ran.any?(&:positive)
        say("routine", ran.any?(&:positive) ? "Done: #{row["name"]}" : "Refused: #{refusal(ran)}")
      end

      def ran_by(row)
        modules = vehicle.speaking.select { |ecu| row["modules"].include?(ecu.id) }
        modules.filter_map { |ecu| interface.routine(ecu.request_id, row["routine"]) }
      end

      def refusal(answers)
        code = answers.filter_map(&:refusal).first or return "no module answers to it"
        system.catalogue.refusal(code)
      end

      # seq: of the last entry of the record that it was bought for.
      # circuit: whose pump, valve or motor is driven by its module. Answers what the module says; what it does is seen
      # by the test that watches it.
      def act_actuate(act)
        at = circuit(act)
        ecu = at.module && vehicle.ecu(at.module)
        refuse("actuate", at.title, "a circuit that a module drives") unless ecu

        spend(1.0)
        answer = interface.actuate(ecu.request_id, ACTUATOR)
        return say("actuate", "#{at.title}: no answer from #{ecu.name}") unless answer

        say("actuate", answer.positive ? "#{at.title}: driven for a moment" : "Refused: #{refusal([answer])}")
      end

      def act_hint(act)
        spend(HINT_MINUTES)
        @hinted_at = act["seq"]
        @hints += 1
        say("hint", "Hint #{hints}")
      end

      def probes(act)
        nodes = [act["a"], act["b"]].map(&:to_s)
        harness = circuit(act).harness
        nodes.each { |node| refuse("probe", node, "a test point of the circuit") unless node?(harness, node) }
        refuse("probe", nodes.first, "two different test points") if nodes.uniq.size == 1
        nodes
      end

      def node?(harness, node)
        %w[ground battery].include?(node) || point?(harness, node)
      end

      # The test that measures the same between the same points in the same state: full id, or nil.
      def test_of(circuit_id, kind, probes)
        at = system.circuit_named(circuit_id)
        nodes = probes.map { |probe| at.harness.node(probe) }.sort
        now = state.for_circuit(circuit_id)
        found =
          at.model.tests.values.find do |test|
            test.kind == kind && test.probes.map { |probe| at.harness.node(probe) }.sort == nodes &&
              (test.state.disconnected.sort == now.disconnected.sort || test.record["without"]) &&
              %w[key pedal].all? { |name| test.state[name] == now[name] || (name == "key" && kind == "ohms") } &&
              (test.state.settings.keys - %w[key pedal bus pump]).empty?
          end
        found && "#{circuit_id}.#{found.id}"
      end
    end
  end
end
