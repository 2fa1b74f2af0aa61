# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Which tests would meet what a gate still asks for. Part of Gates, which has the suspect's readings and places.
    module GateTests
      private

      # need: id; suspect: Suspects::Suspect. Returns ids of tests.
      def tests_for(need, suspect)
        TESTS_OF.key?(need) ? send(TESTS_OF[need], suspect) : []
      end

      TESTS_OF = {
        "supply" => :supply_tests,
        "wiring" => :wiring_tests,
        "ring" => :ring_tests,
        "separate" => :separating_tests,
        "level" => :level_tests,
        "second_way" => :second_tests,
        "direct" => :direct_tests,
        "good_input" => :good_input_tests,
        "plug" => :plug_tests,
        "at_plug" => :at_plug_tests,
        "ends" => :end_tests,
        "own_pins" => :sensor_tests,
        "own_plug" => :own_plug_tests,
        "member" => :member_tests,
        "pump_feed" => :feed_tests
      }.freeze

      def supply_tests(suspect)
        ["#{supply_of(suspect).id}.loaded_supply"]
      end

      def wiring_tests(suspect)
        [covering_test(suspect.circuit, uncovered_wiring(suspect))].compact
      end

      def ring_tests(suspect)
        circuit = suspect.circuit
        return ["#{circuit.id}.look_ring"] unless @coverage.cleared?(circuit.id, "ring")

        [best(circuit) { |test| test.place == "bearing" && telling?(circuit, test) }].compact
      end

      def separating_tests(suspect)
        [best(suspect.circuit) { |test| test.invasive.zero? && telling?(suspect.circuit, test) }].compact
      end

      LEAST_BITS = 0.005 # what a test must tell to be worth asking for; from memory, by the runs of docs/engine.md

      def telling?(circuit, test)
        @planner.bits(circuit, test) >= LEAST_BITS
      end

      def level_tests(suspect)
        ["#{suspect.circuit.id}.#{Gates::LEVEL_TEST}"]
      end

      def second_tests(suspect)
        [spoilt_test(suspect.circuit, suspect.fault)].compact
      end

      def direct_tests(suspect)
        [quickest_accusing_test(suspect)].compact
      end

      def plug_tests(suspect)
        [isolating_test(suspect, cleared_places(suspect)) || clearing_test(suspect)].compact
      end

      def at_plug_tests(suspect)
        plug = suspect.circuit.harness.connectors.last
        [best(suspect.circuit) { |test| at_connector?(test, plug) }].compact
      end

      def end_tests(suspect)
        ends_unseen(suspect).map { |connector| "#{suspect.circuit.id}.#{looks_into(suspect.circuit, connector).first}" }
      end

      def sensor_tests(suspect)
        own = own_pin_tests(suspect.circuit)
        [best(suspect.circuit) { |test| own.include?(test.id) }].compact
      end

      # Looked into; and cleaned, where that was not enough.
      def own_plug_tests(suspect)
        looks_into(suspect.circuit, own_plug(suspect)).filter_map { |id| undone(suspect.circuit, id) }.first(1)
      end

      def member_tests(suspect)
        [member_test(suspect)].compact
      end

      def feed_tests(suspect)
        pumps_of(suspect).filter_map { |pump| feed_test(pump) }
      end

      # A signal known to be good, at the next member that has none yet.
      def good_input_tests(suspect)
        return [isolating_test(suspect, [])].compact unless suspect.cause

        circuit, fault = (suspect.members - isolated_members(suspect)).first
        index = circuit && circuit.model.faults.index(fault)
        [
          index &&
            best(circuit) do |test|
              @planner.table(circuit, test).touches?(index) && @coverage.places(circuit, test) == [fault.place]
            end
        ].compact
      end

      def feed_test(pump)
        best(pump) { |test| Gates::FEED_TESTS.include?(test.id.split(".").first) }
      end

      # A test that this fault would spoil, most telling for its minutes; not one that was done.
      def spoilt_test(circuit, fault)
        index = circuit.model.faults.index(fault)
        best(circuit) { |test| !test.behaviour.looks_at_warnings? && @planner.table(circuit, test).touches?(index) }
      end

      # A test that this fault would spoil and no other place, most telling for its minutes; not one that was done.
      def isolating_test(suspect, cleared)
        best(suspect.circuit) do |test|
          test.invasive.zero? && spoilt_only_by?(suspect.circuit, test, suspect.fault, cleared)
        end
      end

      # Would this fault spoil the test, and no other place but those that are cleared?
      def spoilt_only_by?(circuit, test, fault, cleared = [])
        @planner.table(circuit, test).touches?(circuit.model.faults.index(fault)) &&
          (@coverage.places(circuit, test) - cleared) == [fault.place]
      end

      # A test that clears what else could have spoilt the reading which accuses; the suspect itself would not spoil it.
      def clearing_test(suspect)
        model = suspect.circuit.model
        index = model.faults.index(suspect.fault)
        left =
          accusing(suspect)
            .map do |each|
              @coverage.places(suspect.circuit, each.test) - cleared_places(suspect) - [suspect.fault.place]
            end
            .min_by(&:size) || []
        best(suspect.circuit) do |test|
          !@planner.table(suspect.circuit, test).touches?(index) &&
            @coverage.places(suspect.circuit, test).intersect?(left)
        end
      end

      WEIGHED = 6 # tests weighed again by all that is believed

      # The test of a circuit that the block allows, most telling for its effort; not one that was done.
      def best(circuit, &)
        allowed = by_worth(circuit).lazy.select(&).first(WEIGHED)
        found = allowed.max_by { |test| [@planner.worth_of(circuit, test), test.id] }
        found && "#{circuit.id}.#{found.id}"
      end

      # The tests of a circuit that are open, most telling for their effort by the strong beliefs first.
      def by_worth(circuit)
        (@by_worth ||= {})[circuit.id] ||= circuit
          .model
          .tests
          .values
          .select { |test| open?(circuit, test) }
          .sort_by { |test| [@planner.worth_of(circuit, test, strong: true), test.id] }
          .reverse!
          .freeze
      end

      # Not done yet, and not too dear to be asked for?
      def open?(circuit, test)
        @planner.advised?(circuit, test) && !done?(circuit, test)
      end

      def done?(circuit, test)
        observations_of(circuit).any? { |each| each.test.id == test.id }
      end

      # The test that covers most of the places for its minutes; not one that was done.
      def covering_test(circuit, wanted)
        left = circuit.model.tests.values.select { |test| open?(circuit, test) }
        best =
          left.max_by do |test|
            [(@coverage.places(circuit, test) & wanted).size / @planner.minutes(circuit, test).to_f, test.id]
          end
        best && "#{circuit.id}.#{best.id}"
      end

      # The quickest test by hand that the suspected fault would spoil, where nothing speaks against it yet.
      def quickest_accusing_test(suspect)
        circuit, fault =
          suspect.members.find { |each, own| @coverage.accusing(each.id, own.place).empty? } || suspect.members.first
        (quickest_at(circuit, fault) if suspect.cause) || spoilt_test(circuit, fault)
      end

      # The quickest test that nothing but this place can spoil; a look before others.
      def quickest_at(circuit, fault)
        own = circuit.model.tests.values.select { |test| open?(circuit, test) && spoilt_only_by?(circuit, test, fault) }
        found = own.min_by { |test| [@planner.minutes(circuit, test), test.kind == "table" ? 0 : 1, test.id] }
        found && "#{circuit.id}.#{found.id}"
      end
    end
  end
end
