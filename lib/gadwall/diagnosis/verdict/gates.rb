# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Rules that stand between a high probability and the word 'proven' (data/diagnosis/gates.yml).
    class Gates
      # need: id; reason: why; tests: ids of tests that would meet it, cheapest set first found; hangs_on: ids of tests
      # without one of which the suspect would not lead, or nil.
      Missing =
        Struct.new(:need, :text, :reason, :tests, :hangs_on, keyword_init: true) do
          # Worked out when they are asked for: most are not.
          def tests
            self[:tests].to_a
          end
        end

      NEEDS = {
        "wiring" => "Wiring between module and sensor proven",
        "supply" => "Power and ground of the module proven under load",
        "answered" => "The module responds to a scan",
        "good_input" => "A known-good signal fed in at the module",
        "level" => "Fluid level correct, and bled since it was last opened",
        "pump_feed" => "Pump motor feed proven while it runs",
        "second_way" => "Pressure shown by a second test",
        "plug" => "Isolating test on this part",
        "at_plug" => "A test at the connector of this part",
        "direct" => "Direct test at this location",
        "ring" => "Tone ring or encoder inspected",
        "separate" => "Readings on both sides that leave no other location",
        "own_pins" => "Sensor measured at its own pins",
        "own_plug" => "Connector of this module inspected",
        "member" => "Power, ground and bus of this module tested, or the bus without it",
        "ends" => "Connectors at both ends of the section inspected",
        "confirm" => "A second reading beside the one that decides",
        "measured" => "Circuits of the stored DTCs tested",
        "unexplained" => "Every present DTC explained",
        "unexplained_lamp" => "Every lit warning lamp explained",
        "modules" => "Modules that did not respond named",
        "repeat" => "Doubtful reading repeated",
        "seen_again" => "What was not as it should be seen again"
      }.freeze

      # posterior: Posterior; coverage: Coverage; body: Observations::Body; planner: NextTests, for minutes.
      def initialize(system, posterior, coverage, body, planner)
        @posterior = posterior
        @system = system
        @coverage = coverage
        @body = body
        @planner = planner
      end

      # suspect: Posterior::Suspect with a fault. Returns the Missing needs; empty when the gate is passed.
      def missing(suspect)
        gate = gate_for(suspect)
        needs = gate["needs"].reject { |need| met?(need, suspect) }
        needs.unshift("direct") unless shown?(suspect)
        missing =
          needs.map do |need|
            Missing.new(
              need: need,
              text: NEEDS.fetch(need),
              reason: gate["reason"],
              tests: Later.new { tests_for(need, suspect) }
            ).freeze
          end
        missing + (missing.any? && suspect.members.size > 1 ? [] : unsteady(suspect))
      end

      # What is missing before 'no fault found' is a verdict: Array of Missing.
      def missing_for_none
        no_fault.missing
      end

      # The first gate whose places speak of this one: "connector", "section", or "family/place" with * for any.
      def gate_for(suspect)
        kind = kind_of(suspect)
        name = "#{suspect.circuit.family}/#{suspect.fault.place}"
        @system.catalogue.gates.values.find do |gate|
          gate["places"].any? { |pattern| pattern == kind || File.fnmatch(pattern, name) }
        end
      end

      # Does something that was seen set the place apart from the others of its circuit? Codes and live data alone name
      # a circuit, and a reading that several places can cause leaves the choice among them to base rates. Nothing wrong
      # is told by something measured.
      def separated?(suspect)
        return no_fault.measured? if suspect.none?

        return true if suspect.cause || suspect.members.size > 1

        !one_reading?(suspect) && standing(suspect).separate?
      end

      WIRING = %w[connector section ground_point].freeze

      # Is the wiring accused by one reading that several of its places can cause?
      def one_reading?(suspect)
        return false unless WIRING.include?(kind_of(suspect))

        mine = observations_of(suspect.circuit)
        mine.map { |each| each.test.id }.uniq.size == 1 && mine.none? { |each| each.test.kind == "table" } &&
          !isolated?(suspect, [])
      end

      # The most telling test of a circuit that is left, by which something is measured.
      def first_test(circuit_id)
        best(@system.circuit_named(circuit_id)) { |test| !TALK.include?(test.kind) }
      end

      include RevealingTests
      include GateTests
      include ConnectorsSeen
      include OwnPins
      include ShownByHand

      private

      def no_fault
        @no_fault ||= NoFaultGate.new(@posterior, @coverage, @body) { |circuit, wanted| best(circuit, &wanted) }
      end

      # A leader that falls with one reading, if that was a slip, waits for a second one.
      def unsteady(suspect)
        return [] if put_right?(suspect)

        all = suspect.members.size > 1 ? only_accuser(suspect) : standing(suspect).decisive
        decisive = all.last or return []
        [
          Missing.new(
            need: "confirm",
            text: "#{NEEDS.fetch("confirm")}: #{decisive.test.title}",
            reason: "A verdict that hangs on one reading falls with one slip: repeat it, or take another one.",
            tests: Later.new { [confirming_test(suspect, decisive)] },
            hangs_on: all.map(&:test_id)
          ).freeze
        ]
      end

      def standing(suspect)
        (@standing ||= {})[suspect.id] ||= StandingAlone.new(@posterior, suspect)
      end

      # Of what reaches several circuits: the one reading that speaks against it, where there is no second one. What was
      # looked at once counts in each circuit.
      def only_accuser(suspect)
        accusing = accusing(suspect)
        accusing.map(&:seq).uniq.size == 1 ? accusing.first(1) : []
      end

      # Another test that only this fault would spoil, where it takes no longer than the reading itself; else the
      # reading again.
      def confirming_test(suspect, decisive)
        again = decisive.test_id
        return again if suspect.members.size > 1

        other = isolating_test(suspect, cleared_places(suspect, but: decisive)) or return again

        circuit, test = @system.test(other)
        minutes = @planner.minutes(suspect.circuit, decisive.test)
        @planner.minutes(circuit, test) <= minutes ? other : again
      end

      def kind_of(suspect)
        line = suspect.circuit.harness
        place = suspect.fault.place
        return "connector" if line.connectors.any? { |connector| connector.id == place }

        line.sections.any? { |section| section.id == place } ? "section" : place
      end

      def met?(need, suspect)
        return true if BY_READINGS.include?(need) && (suspect.cause || put_right?(suspect))

        send(MET_BY.fetch(need), suspect)
      end

      BY_READINGS = %w[separate ends].freeze # needs that a fault which went with a change has met
      MET_BY = {
        "answered" => :module_answers?,
        "supply" => :supply_cleared?,
        "wiring" => :wiring_covered?,
        "good_input" => :good_input?,
        "plug" => :isolated_beside_cleared?,
        "at_plug" => :tested_at_plug?,
        "level" => :level_shown?,
        "pump_feed" => :pump_feed_shown?,
        "ring" => :ring_shown?,
        "separate" => :alone_left?,
        "ends" => :ends_seen?,
        "own_pins" => :own_pins_measured?,
        "own_plug" => :own_plug_seen?,
        "member" => :member_tested?,
        "second_way" => :second_way?
      }.freeze

      def module_answers?(suspect)
        suspect.fault.mode == "dead" ? bus_reaches?(suspect) : answered?(suspect)
      end

      def wiring_covered?(suspect)
        uncovered_wiring(suspect).empty?
      end

      def good_input?(suspect)
        suspect.cause ? isolated_members(suspect).size > 1 : isolated?(suspect, [])
      end

      def isolated_beside_cleared?(suspect)
        isolated?(suspect, cleared_places(suspect))
      end

      def level_shown?(suspect)
        shown_sound?(suspect.circuit, LEVEL_TEST) || @posterior.chance_at(suspect.circuit.id, "fluid") < RIVAL_FROM
      end

      def pump_feed_shown?(suspect)
        pumps_of(suspect).any? { |pump| shown_sound?(pump, *FEED_TESTS) }
      end

      def ring_shown?(suspect)
        !PULSES.include?(suspect.fault.mode) ||
          (@coverage.cleared?(suspect.circuit.id, "ring") && !bearing_feared?(suspect.circuit))
      end

      def alone_left?(suspect)
        rivals(suspect).empty?
      end

      def second_way?(suspect)
        accusing(suspect).map { |each| each.test.id }.uniq.size > 1
      end

      def answered?(suspect)
        @body.scans.any? { |scan| scan.answers(suspect.circuit.module) }
      end

      # A module that is silent for a fault of its own: its bus must be proven where it sits, or it has none.
      def bus_reaches?(suspect)
        return answered?(suspect) unless suspect.circuit.powers?

        buses = @system.buses_of(suspect.circuit.module)
        buses.all? { |bus| @body.observations.any? { |each| each.circuit.id == bus.id && on_bus?(each) } }
      end

      def on_bus?(observation)
        observation.test.numeric? && @coverage.normal?(observation)
      end

      PULSES = %w[stuck weak].freeze # of a sensor: no pulses, or weak ones, which a bad ring gives too
      RIVAL_FROM = 0.01

      # Other places of its circuit that are still to be feared: names.
      def rivals(suspect)
        alike = @posterior.bodies.alike(suspect.place)
        @posterior
          .places_of(suspect.circuit.id)
          .select { |place, p| !alike.include?(place) && !place.start_with?("shared/") && p >= RIVAL_FROM }
          .keys
      end

      LEVEL_TEST = "level_and_air"
      # Of data/tests/pump.yml; at the connector nearest the battery.
      FEED_TESTS = %w[feed_running bulb_pump].freeze

      # Did one of these tests show the circuit as it should be? names: ids, without the place where a test has several.
      def shown_sound?(circuit, *names)
        @body.observations.any? do |each|
          each.circuit.id == circuit.id && names.include?(each.test.id.split(".").first) && @coverage.normal?(each)
        end
      end

      # The circuits of pumps that hang on the same module.
      def pumps_of(suspect)
        @system.circuits.select { |circuit| circuit.family == "pump" && circuit.module == suspect.circuit.module }
      end

      # Only a voltage under load counts: a look at the plug clears the plug, not the feed.
      def supply_cleared?(suspect)
        supply = supply_of(suspect) or return true
        shown_sound?(supply, "loaded_supply")
      end

      # The circuit that feeds what is suspected: of its module, or its own where it has feed and ground of its own.
      def supply_of(suspect)
        suspect.circuit.model.tests.key?("loaded_supply") ? suspect.circuit : @system.supply_of(suspect.circuit.module)
      end

      # Wires and connectors from the module up to the sensor's plug. The plug itself is judged with the sensor.
      def uncovered_wiring(suspect)
        wiring(suspect.circuit).reject do |place|
          @coverage.clearing(suspect.circuit.id, place).any? { |each| !TALK.include?(each.test.kind) }
        end
      end

      def wiring(circuit)
        (circuit.harness.connectors[0..-2] || []).map(&:id) + circuit.harness.sections.map(&:id)
      end

      # Readings that speak against the suspect's places, in any of its circuits.
      def accusing(suspect)
        suspect.members.flat_map { |circuit, fault| @coverage.accusing(circuit.id, fault.place) }
      end

      # Of a cause that reaches several circuits: those members that a signal known to be good has shown dead.
      def isolated_members(suspect)
        suspect.members.select do |circuit, fault|
          accusing = @coverage.accusing(circuit.id, fault.place)
          accusing.any? { |each| @coverage.places(circuit, each.test) == [fault.place] }
        end
      end

      # Shown by a test that nothing but this place can spoil: with the plug off, or a good signal fed in. What else
      # could have spoilt it may be cleared by other readings (not for a module).
      def isolated?(suspect, cleared)
        accusing(suspect).any? do |each|
          (@coverage.places(suspect.circuit, each.test) - cleared) == [suspect.fault.place]
        end
      end

      # but: a reading that does not count.
      def cleared_places(suspect, but: nil)
        suspect.circuit.harness.places.select do |place|
          place != suspect.fault.place &&
            @coverage.clearing(suspect.circuit.id, place).any? { |each| !each.equal?(but) }
        end
      end
    end
  end
end
