# frozen_string_literal: true

module Gadwall
  module Signals
    # Findings of a capture as entries of a job's evidence: the outcome of the test that the capture stands for.
    module AsEvidence
      # By kind of signal, the tests that a capture can stand for, best first.
      TESTS = { "wheel_speed" => %w[scope live_speed], "motor_current" => %w[live_clamp], "pump_pressure" => %w[stop_watch] }.freeze

      # Can a capture of some kind be taken at this circuit?
      def self.speaks_of?(circuit)
        TESTS.values.flatten.any? { |test| tests(circuit, test).any? }
      end

      # analysis: Hash with String keys, as `capture` prints it; circuit: Vehicle::System::Circuit.
      # Returns an entry ({"kind" => "finding", "test" =>, "result" =>}) or nil where it says nothing of this circuit.
      def self.of(analysis, circuit, catalogue: Knowledge.catalogue)
        return nil if analysis["verdict"] == "unreadable"

        kind = surest(analysis["findings"])
        TESTS.fetch(analysis["signal"], []).filter_map { |test| finding(circuit, test, kind, catalogue) }.first
      end

      # The entries of a log of live data: one for each wheel circuit that it speaks of.
      def self.of_live(analysis, system, catalogue: Knowledge.catalogue)
        logged = analysis["mapping"].values.compact.grep(/\Awheel_/).map { |id| id.delete_prefix("wheel_") }
        logged.filter_map do |corner|
          circuit = system.circuits.find { |each| each.id == corner } or next
          own = analysis["findings"].select { |row| row["wheel"] == corner.tr("_", " ") }
          finding(circuit, "live_speed", surest(own), catalogue)
        end
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

      # The tests of a circuit that go by this name, at whichever joint.
      def self.tests(circuit, name)
        circuit.model.tests.values.select { |each| each.outcomes && each.id.split(".").first == name }
      end
      private_class_method :surest, :finding, :tests
    end
  end
end
