# frozen_string_literal: true

module Gadwall
  module Signals
    # Findings of a capture as entries of a job's evidence: the outcome of the test that the capture stands for.
    module AsEvidence
      # analysis: Hash with String keys, as `capture` prints it; circuit: Vehicle::System::Circuit of a wheel.
      # Returns an entry ({"kind" => "finding", "test" =>, "result" =>}) or nil where it says nothing of this circuit.
      def self.of_wheel(analysis, circuit, catalogue: Knowledge.catalogue)
        return nil if analysis["verdict"] == "unreadable"

        kind = surest(analysis["findings"])
        finding(circuit, "scope", kind, catalogue) || finding(circuit, "live_speed", kind, catalogue)
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
        tests = circuit.model.tests.values.select { |each| each.id.split(".").first == test && each.outcomes }
        tests.each do |each|
          result = wanted.find { |outcome| each.outcomes.key?(outcome) }
          return { "kind" => "finding", "test" => "#{circuit.id}.#{each.id}", "result" => result } if result
        end
        nil
      end
      private_class_method :surest, :finding
    end
  end
end
