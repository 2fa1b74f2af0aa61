# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Where the diagnosis stands, line by line and as a whole. state: "open", "likely" or "proven", that of the weakest line;
    # suspect: the leading one, a set where there are several lines; probability: of its place, of all of them together;
    # why: sentences; missing: Gates::Missing.
    class Verdict
      # One line of inquiry with its state.
      Line = Struct.new(:inquiry, :state, :missing, :why, keyword_init: true) do
        def suspect
          inquiry.suspect
        end

        def probability
          inquiry.probability
        end

        def proven?
          state == "proven"
        end
      end

      STATES = %w[open likely proven].freeze

      attr_reader :state, :lines, :suspect, :probability, :why, :missing, :explanations

      # explanations: Explanations of the codes.
      def initialize(posterior, body, gates, weights, inquiries, explanations)
        @posterior = posterior
        @body = body
        @gates = gates
        @weights = weights
        @explanations = explanations
        @limits = %w[likely proven].to_h { |word| [word, posterior.system.catalogue.model(word)] }
        @lines = inquiries.map { |inquiry| line(inquiry) }.freeze
        @state = lines.map(&:state).min_by { |word| STATES.index(word) }
        @suspect = together
        @probability = lines.map(&:probability).reduce(:*)
        @missing = lines.flat_map(&:missing).uniq.freeze
        @why = lines.flat_map(&:why).uniq.freeze
        freeze
      end

      def proven?
        state == "proven"
      end

      # Present codes that nothing explains.
      def unexplained
        explanations.unexplained
      end

      # Ids of tests still needed, once a line is near enough to its verdict for them to be worth doing.
      def needed_tests
        lines.select { |line| line.state == "likely" }.flat_map(&:missing).flat_map(&:tests).uniq
      end

      private

      def line(inquiry)
        missing = (inquiry.suspect.none? ? [] : @gates.missing(inquiry.suspect) + loose_ends(inquiry)).freeze
        Line.new(inquiry: inquiry, state: decide(inquiry, missing), missing: missing, why: sentences(inquiry).freeze).freeze
      end

      def decide(inquiry, missing)
        return "open" if inquiry.probability < @limits["likely"]

        !inquiry.suspect.none? && inquiry.probability >= proven_from(inquiry.suspect) && missing.empty? ? "proven" : "likely"
      end

      def proven_from(suspect)
        @gates.gate_for(suspect)["proven_from"] || @limits["proven"]
      end

      # The leading faults of all lines as one set.
      def together
        return lines.first.suspect if lines.size == 1

        members = lines.flat_map { |line| line.suspect.members }
        cause = lines.filter_map { |line| line.suspect.cause }.first if lines.all? { |line| line.suspect.cause }
        Suspects::Suspect.new(members: members, cause: cause, probability: probability, place: lines.map { |line| line.suspect.place }.join(" + ")).freeze
      end

      def loose_ends(inquiry)
        ends = explanations.open_codes.map { |code| unexplained_code(code) }
        ends + @weights.select { |row| row.surprise > Weight::DOUBTED && inquiry.covers?(row.observation.circuit.id) }.map { |row| doubted(row) }
      end

      def unexplained_code(code)
        Gates::Missing.new(need: "unexplained", text: "#{Gates::NEEDS['unexplained']}: #{code.code}", tests: [@gates.first_test(code.circuit_id)].compact,
                           reason: "A code that the verdict does not explain is a second line of inquiry.")
      end

      def doubted(row)
        Gates::Missing.new(need: "repeat", text: "#{Gates::NEEDS['repeat']}: #{row.observation.test.title}", reason: "It fits no suspect: probes, meter battery, wrong pin?",
                           tests: ["#{row.observation.circuit.id}.#{row.observation.test.id}"])
      end

      def sentences(inquiry)
        return ["Nothing measured so far shows a fault that is there now."] if inquiry.suspect.none?

        mine = @weights.select { |row| inquiry.covers?(row.observation.circuit.id) && row.bits.abs >= 0.3 }
        told = mine.sort_by { |row| -row.bits }.first(6).map { |row| sentence(row) }
        codes = @body.scans.flat_map(&:codes).select { |code| inquiry.circuits.include?(code.circuit_id) }
        told += codes.map { |code| "Code #{code.word} stands in this circuit." }.uniq
        told << @gates.gate_for(inquiry.suspect)["reason"]
      end

      def sentence(row)
        result = row.observation.typed || row.observation.result.to_s
        told = row.bits.positive? ? "for it" : "against it"
        "#{row.observation.test.title}: #{result} (#{format('%.1f', row.bits.abs)} bits #{told})."
      end
    end
  end
end
