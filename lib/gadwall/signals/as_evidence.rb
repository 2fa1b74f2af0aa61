# frozen_string_literal: true

module Gadwall
  module Signals
    # Findings of a capture as entries of a job's evidence: the outcome of the test that the capture stands for.
    module AsEvidence
      # By kind of signal, the tests that a capture can stand for, best first.
      TESTS = {
        "wheel_speed" => %w[scope live_speed],
        "motor_current" => %w[live_clamp],
        "pump_pressure" => %w[stop_watch]
      }.freeze

      # Can a capture of some kind be taken at this circuit?
      def self.speaks_of?(circuit)
        TESTS.values.flatten.any? { |test| tests(circuit, test).any? }
      end

      # analysis: Hash with String keys, as `capture` prints it; circuit: Vehicle::System::Circuit.
      # Returns an entry ({"kind" => "finding", "test" =>, "result" =>}) or nil where it says nothing of this circuit.
      def self.of(analysis, circuit, catalogue: Knowledge.catalogue)
        return nil if analysis["verdict"] == "unreadable" || analysis["note"]

        kind = surest(analysis["findings"])
        TESTS.fetch(analysis["signal"], []).filter_map { |test| finding(circuit, test, kind, catalogue) }.first
      end

      # The entries of a log of live data: for each circuit that it speaks of, what it says there.
      def self.of_live(analysis, system, catalogue: Knowledge.catalogue)
        said =
          wheels(analysis) + park_brakes(analysis, catalogue) + at_rest(analysis, catalogue) +
            in_bends(analysis, catalogue) + switch(analysis)
        said
          .filter_map do |id, test, kind|
            circuit = system.circuits.find { |each| each.id == id }
            circuit && finding(circuit, test, kind, catalogue)
          end
          .uniq { |entry| entry["test"] }
      end

      # [[circuit id, test, kind of finding], ...]
      def self.wheels(analysis)
        logged = analysis["mapping"].values.compact.grep(/\Awheel_/).map { |id| id.delete_prefix("wheel_") }
        return [] if logged.size < 3 # each is judged by the others

        logged.map do |corner|
          [corner, "live_speed", surest(analysis["findings"].select { |row| row["wheel"] == corner.tr("_", " ") })]
        end
      end

      def self.park_brakes(analysis, catalogue)
        analysis["findings"]
          .select { |row| row["kind"] == "park_brake_no_current" }
          .map do |row|
            [catalogue.live_parameters.dig("park_brake_current_#{row["side"]}", "circuit"), "live_clamp", row["kind"]]
          end
      end

      # A sensor of several values is good where all that were seen are; the one that is not goes first.
      def self.at_rest(analysis, catalogue)
        off = analysis["findings"].select { |row| row["kind"] == "offset_at_rest" }.map { |row| row["parameter"] }
        (analysis.dig("judged", "rest") || [])
          .sort_by { |id| off.include?(id) ? 0 : 1 }
          .map do |id|
            [catalogue.live_parameters.dig(id, "circuit"), "live_rest", off.include?(id) ? "offset_at_rest" : "clean"]
          end
      end

      def self.in_bends(analysis, catalogue)
        off =
          analysis["findings"]
            .select { |row| row["kind"] == "disagrees" }
            .to_h { |row| [row["parameter"], { true => "disagrees_steadily", false => "disagrees" }[row["steadily"]]] }
        (analysis.dig("judged", "bends") || [])
          .sort_by { |id| off.key?(id) ? 0 : 1 }
          .reject { |id| off.key?(id) && off[id].nil? }
          .map { |id| [catalogue.live_parameters.dig(id, "circuit"), "live_bend", off[id] || "clean"] }
      end

      SWITCH_TESTS = {
        "held" => ["live_held", %w[switch_drops_out switch_stays_off]],
        "released" => ["live_released", %w[switch_stays_on]]
      }.freeze

      def self.switch(analysis)
        seen = analysis["findings"].map { |row| row["kind"] }
        (analysis.dig("judged", "switch") || [])
          .map { |id| SWITCH_TESTS.fetch(id) }
          .map { |test, kinds| ["brake_switch", test, (kinds & seen).first || "clean"] }
      end

      # The kind of the surest finding, or clean.
      def self.surest(findings)
        findings.max_by { |row| row["confidence"].to_f }&.fetch("kind") || "clean"
      end

      def self.finding(circuit, test, kind, catalogue)
        wanted = catalogue.findings.dig(kind, "outcomes") or return nil
        tests(circuit, test).each do |each|
          result = wanted.find { |outcome| each.outcomes.key?(outcome) }
          return { "kind" => "finding", "test" => "#{circuit.id}.#{each.id}", "result" => result } if result
        end
        nil
      end

      # The tests of a circuit that go by this name, at whichever connector.
      def self.tests(circuit, name)
        circuit.model.tests.values.select { |each| each.outcomes && each.id.split(".").first == name }
      end
      private_class_method :surest, :finding, :tests, :wheels, :park_brakes, :at_rest, :in_bends, :switch
    end
  end
end
