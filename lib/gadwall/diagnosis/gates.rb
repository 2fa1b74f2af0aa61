# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Rules that stand between a high probability and the word 'proven' (data/diagnosis/gates.yml).
    class Gates
      # need: id; reason: why; tests: ids of tests that would meet it, cheapest set first found.
      Missing = Struct.new(:need, :text, :reason, :tests, keyword_init: true)

      NEEDS = { "wiring" => "Wiring between module and sensor proven", "supply" => "Feed and ground of the module proven under load",
                "answered" => "The module answers a scan", "good_input" => "A known-good signal fed in at the module", "plug" => "A test that only this part can fail",
                "direct" => "A test by hand at the place itself", "unexplained" => "Every present code explained",
                "repeat" => "The reading that fits nothing measured again" }.freeze

      # coverage: Coverage; body: Evidence::Body; planner: NextTests, for minutes.
      def initialize(system, coverage, body, planner)
        @system = system
        @coverage = coverage
        @body = body
        @planner = planner
      end

      # suspect: Posterior::Suspect with a fault. Returns the Missing needs; empty when the gate is passed.
      def missing(suspect)
        gate = gate_for(suspect)
        needs = gate["needs"].reject { |need| met?(need, suspect) }
        needs.unshift("direct") if accusing(suspect).empty?
        needs.map { |need| Missing.new(need: need, text: NEEDS.fetch(need), reason: gate["reason"], tests: tests_for(need, suspect)).freeze }
      end

      # The first gate whose places speak of this one: "joint", "section", or "family/place" with * for any.
      def gate_for(suspect)
        kind = kind_of(suspect)
        name = "#{suspect.circuit.family}/#{suspect.fault.place}"
        @system.catalogue.gates.values.find { |gate| gate["places"].any? { |pattern| pattern == kind || File.fnmatch(pattern, name) } }
      end

      # The most telling test of a circuit, for one that nobody has looked at.
      def first_test(circuit_id)
        circuit = @system.circuit_named(circuit_id)
        best = circuit.model.tests.values.max_by { |test| [@planner.bits(circuit, test, strong: true) / @planner.minutes(circuit, test), test.id] }
        best && "#{circuit.id}.#{best.id}"
      end

      private

      def kind_of(suspect)
        line = suspect.circuit.line
        place = suspect.fault.place
        return "joint" if line.joints.any? { |joint| joint.id == place }

        line.sections.any? { |section| section.id == place } ? "section" : place
      end

      def met?(need, suspect)
        case need
        when "answered" then @body.scans.any? { |scan| scan.answers(suspect.circuit.module) }
        when "supply" then supply_cleared?(suspect)
        when "wiring" then uncovered_wiring(suspect).empty?
        when "good_input", "plug" then isolated?(suspect)
        end
      end

      # Only a voltage under load counts: a look at the plug clears the plug, not the feed.
      def supply_cleared?(suspect)
        supply = supply_of(suspect) or return true
        @body.observations.any? { |each| each.circuit.id == supply.id && each.test.id == "loaded_supply" && @coverage.sound?(each) }
      end

      # The circuit that feeds what is suspected: of its module, or its own where it has feed and ground of its own.
      def supply_of(suspect)
        suspect.circuit.model.tests.key?("loaded_supply") ? suspect.circuit : @system.supply_of(suspect.circuit.module)
      end

      # Wires and joints from the module up to the sensor's plug. The plug itself is judged with the sensor.
      def uncovered_wiring(suspect)
        wiring(suspect.circuit).reject { |place| @coverage.cleared?(suspect.circuit.id, place) }
      end

      def wiring(circuit)
        (circuit.line.joints[0..-2] || []).map(&:id) + circuit.line.sections.map(&:id)
      end

      # Readings that speak against the suspect's places, in any of its circuits.
      def accusing(suspect)
        suspect.members.flat_map { |circuit, fault| @coverage.accusing(circuit.id, fault.place) }
      end

      # Shown by a test that nothing but this place can spoil: with the plug off, or a good signal fed in.
      def isolated?(suspect)
        accusing(suspect).any? { |each| Coverage.places(suspect.circuit.model, each.test) == [suspect.fault.place] }
      end

      def tests_for(need, suspect)
        case need
        when "supply" then ["#{supply_of(suspect).id}.loaded_supply"]
        when "good_input", "plug" then [isolating_test(suspect)].compact
        when "wiring" then [covering_test(suspect.circuit, uncovered_wiring(suspect))].compact
        when "direct" then [telling_test(suspect)].compact
        else []
        end
      end

      # A test that nothing but this place can spoil, most telling for its minutes.
      def isolating_test(suspect)
        circuit = suspect.circuit
        alone = circuit.model.tests.values.select { |test| Coverage.places(circuit.model, test) == [suspect.fault.place] && test.invasive.zero? }
        best = alone.max_by { |test| [@planner.bits(circuit, test, strong: true) / @planner.minutes(circuit, test), test.id] }
        best && "#{circuit.id}.#{best.id}"
      end

      # The test that covers most of the places for its minutes; not one that was just done.
      def covering_test(circuit, wanted)
        done = @body.observations.select { |each| each.circuit.id == circuit.id }.map { |each| each.test.id }
        best = (circuit.model.tests.values.reject { |test| done.include?(test.id) }).max_by do |test|
          [(Coverage.places(circuit.model, test) & wanted).size / @planner.minutes(circuit, test).to_f, test.id]
        end
        best && "#{circuit.id}.#{best.id}"
      end

      # The quickest test by hand that the suspected fault would spoil.
      def telling_test(suspect)
        index = suspect.circuit.model.faults.index(suspect.fault)
        candidates = suspect.circuit.model.tests.values.select { |test| suspect.circuit.model.table(test).touches?(index) }
        best = candidates.max_by { |test| [@planner.bits(suspect.circuit, test, strong: true) / @planner.minutes(suspect.circuit, test), test.id] }
        best && "#{suspect.circuit.id}.#{best.id}"
      end
    end
  end
end
