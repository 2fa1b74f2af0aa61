# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # What a conclusion leaves open, whatever its own gate says: codes and lamps that nothing explains, modules that did
    # not answer, readings that fit nothing.
    class LooseEnds
      # Needs that may each be a fault of its own.
      ANOTHER = %w[unexplained unexplained_lamp modules repeat].freeze

      # gates: Gates; weights: Array of Weight::Row; investigations: Array of Investigation; explanations: Explanations.
      def initialize(posterior, body, gates, weights, investigations, explanations)
        @posterior = posterior
        @body = body
        @gates = gates
        @weights = weights
        @investigations = investigations
        @explanations = explanations
        @left_lamps = LampExplanations.new(posterior, body, investigations.map(&:suspect)).left
      end

      # Array of Missing for one Investigation.
      def of(investigation)
        doubtful =
          @weights.select do |row|
            row.outlier_chance > Weight::OUTLIER_FROM && concerns?(investigation, row.observation.circuit.id) &&
              !repeated?(row.observation)
          end
        everywhere + doubtful.map { |row| doubted(row) }
      end

      private

      def everywhere
        @everywhere ||= [
          *@explanations.open_codes.map { |code| unexplained_code(code) },
          *@left_lamps.map { |left| unexplained_lamp(left) },
          *unnamed_modules
        ].freeze
      end

      # Does it follow the circuit? A reading that fits nothing where nobody looks for a fault concerns the first line.
      def concerns?(investigation, circuit_id)
        investigation.covers?(circuit_id) ||
          (investigation.equal?(@investigations.first) && @investigations.none? { |each| each.covers?(circuit_id) })
      end

      # Was the same test done again since?
      def repeated?(observation)
        @body.observations.any? { |each| each.seq > observation.seq && each.test_id == observation.test_id }
      end

      def unexplained_code(code)
        Missing.new(
          need: "unexplained",
          text: "Every present DTC explained: #{code.code}",
          tests: [@gates.first_test(code.circuit_id)].compact,
          reason: "A DTC that the diagnosis does not explain may be a second fault."
        )
      end

      def unexplained_lamp(left)
        Missing.new(
          need: "unexplained_lamp",
          text: "Every lit warning lamp explained: #{left.name}",
          tests: Later.new { [@gates.revealing_test(left.circuits.first)].compact },
          reason: "A lit lamp that the diagnosis does not explain may be a second fault."
        )
      end

      # Fewer modules responded than the vehicle has, and nobody said which.
      def unnamed_modules
        missing = @body.scans.last&.unnamed_missing.to_i
        return [] if missing.zero?

        [
          Missing.new(
            need: "modules",
            text: "Modules that did not respond named: #{missing}",
            tests: network_scans,
            reason: "A module that is missing points to its supply or its bus."
          )
        ]
      end

      def network_scans
        buses = @posterior.system.circuits.select { |circuit| circuit.model.tests.key?("who_answers") }
        buses.map { |circuit| "#{circuit.id}.who_answers" }
      end

      def doubted(row)
        Missing.new(
          need: "repeat",
          text: "Doubtful reading repeated: #{row.observation.test.title}",
          reason: "It does not fit any suspect: probes, meter battery, wrong pin?",
          tests: [row.observation.test_id]
        )
      end
    end
  end
end
