# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Where the diagnosis stands. state: "open", "likely" or "proven"; suspect: the leading one; probability: of its place
    # (all faults that the same repair cures); why: sentences; missing: Gates::Missing.
    class Verdict
      attr_reader :state, :suspect, :probability, :why, :missing, :unexplained

      def initialize(posterior, body, gates, weights)
        @posterior = posterior
        @body = body
        @limits = %w[likely proven].to_h { |word| [word, posterior.system.catalogue.model(word)] }
        place, @probability = posterior.places.first
        @suspect = posterior.suspects.find { |suspect| suspect.place == place }
        @unexplained = unexplained_codes.freeze
        @limits["proven"] = gates.gate_for(@suspect)["proven_from"] || @limits["proven"] unless @suspect.none?
        @missing = (@suspect.none? ? [] : gates.missing(@suspect) + loose_ends(weights)).freeze
        @state = decide
        @why = sentences(weights, gates).freeze
        freeze
      end

      def proven?
        state == "proven"
      end

      # Ids of tests still needed, once the verdict is near enough for them to be worth doing.
      def needed_tests
        state == "likely" ? missing.flat_map(&:tests).uniq : []
      end

      private

      def decide
        return "open" if probability < @limits["likely"]

        !@suspect.none? && probability >= @limits["proven"] && missing.empty? ? "proven" : "likely"
      end

      # Present codes in circuits that the leading suspect cannot have touched.
      def unexplained_codes
        return [] if @suspect.none?

        @body.scans.flat_map(&:codes).select { |code| code.status == "current" && code.circuit_id && !explains?(code) }
      end

      def explains?(code)
        [code.circuit_id, Vehicle::MODULE].include?(@suspect.circuit.id)
      end

      def loose_ends(weights)
        ends = []
        if unexplained.any?
          ends << Gates::Missing.new(need: "unexplained", text: "#{Gates::NEEDS['unexplained']}: #{unexplained.map(&:code).join(', ')}",
                                     reason: "A code that the verdict does not explain is a second line of inquiry.", tests: [])
        end
        weights.select { |row| row.surprise > Weight::DOUBTED }.each do |row|
          ends << Gates::Missing.new(need: "repeat", text: "#{Gates::NEEDS['repeat']}: #{row.observation.test.title}",
                                     reason: "It fits no suspect: probes, meter battery, wrong pin?", tests: ["#{row.observation.circuit.id}.#{row.observation.test.id}"])
        end
        ends
      end

      def sentences(weights, gates)
        return ["Nothing measured so far shows a fault that is there now."] if @suspect.none?

        told = weights.select { |row| row.bits.abs >= 0.3 }.sort_by { |row| -row.bits }.first(6).map { |row| sentence(row) }
        codes = @body.scans.flat_map(&:codes).select { |code| code.circuit_id == @suspect.circuit.id }
        told += codes.map { |code| "Code #{code.word} stands in this circuit." }
        told << gates.gate_for(@suspect)["reason"]
      end

      def sentence(row)
        result = row.observation.typed || row.observation.result.to_s
        told = row.bits.positive? ? "for it" : "against it"
        "#{row.observation.test.title}: #{result} (#{format('%.1f', row.bits.abs)} bits #{told})."
      end
    end
  end
end
