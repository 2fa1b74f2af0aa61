# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Where the diagnosis stands, conclusion by conclusion and as a whole. state: "open", "likely" or "proven", that of
    # the weakest conclusion;
    # suspect: the leading one, a set where there are several conclusions; probability: of its place, of all of them
    # together;
    # why: sentences; missing: Array of Missing.
    class Verdict
      # One conclusion of investigation with its state.
      Conclusion =
        Struct.new(:investigation, :state, :missing, :why, keyword_init: true) do
          # What it concludes: Suspects::Suspect.
          def suspect
            investigation.suspect
          end

          # Of its suspect's location, 0..1.
          def probability
            investigation.probability
          end

          # Is the fault proven by measurement?
          def proven?
            state == "proven"
          end
        end

      STATES = %w[open likely proven].freeze

      attr_reader :state, :conclusions, :suspect, :probability, :why, :missing, :explanations

      # explanations: Explanations of the codes.
      def initialize(posterior, body, gates, weights, investigations, explanations)
        @posterior = posterior
        @body = body
        @gates = gates
        @weights = weights
        @explanations = explanations
        @limits = %w[likely proven].to_h { |word| [word, posterior.system.catalogue.model(word)] }
        @loose_ends = LooseEnds.new(posterior, body, gates, weights, investigations, explanations)
        @conclusions = investigations.map { |investigation| conclusion(investigation) }.freeze
        @state = conclusions.map(&:state).min_by { |word| STATES.index(word) }
        @suspect = together
        @probability = conclusions.map(&:probability).reduce(:*)
        @missing = conclusions.flat_map(&:missing).uniq.freeze
        @why = conclusions.flat_map(&:why).uniq.freeze
        freeze
      end

      # Is the fault proven by measurement?
      def proven?
        state == "proven"
      end

      # Present codes that nothing explains.
      def unexplained
        explanations.unexplained
      end

      # The conclusion at a place, whatever leads now. place: "circuit/place". Returns a Conclusion, or nil.
      def conclusion_at(place)
        investigation = Investigation.at(@posterior, place)
        investigation && conclusion(investigation)
      end

      # Ids of tests whose reading is in doubt, each done once.
      def tests_in_doubt
        conclusions.flat_map(&:missing).select { |missing| missing.need == "repeat" }.flat_map(&:tests).uniq
      end

      # Ids of tests whose readings decide about the conclusions that are not proven yet: without one of them the leader
      # would not lead, or it speaks against the leader.
      def decisive_tests
        conclusions
          .reject(&:proven?)
          .flat_map { |each| each.missing.flat_map { |one| one.hangs_on.to_a } + contrary(each) }
          .uniq
      end

      # Ids of tests still needed, once a conclusion is near enough to its verdict for them to be worth doing. While
      # another fault is not even likely yet, that one comes first: only what may be a fault of its own is asked for.
      def needed_tests
        near, far = conclusions.reject(&:proven?).partition { |each| near?(each) }
        missing = near.flat_map { |each| wanted(each) }
        missing = missing.select { |each| LooseEnds::ANOTHER.include?(each.need) } if far.any?
        (missing.flat_map(&:tests) | tests_in_doubt).uniq
      end

      private

      # As probable as what is likely, though nothing may have set it apart yet.
      def near?(conclusion)
        conclusion.probability >= @limits["likely"]
      end

      # What is worth doing for it now: no reading is taken again for what is not even set apart.
      def wanted(conclusion)
        conclusion.state == "open" ? conclusion.missing.reject { |each| each.need == "confirm" } : conclusion.missing
      end

      def conclusion(investigation)
        own = investigation.suspect.none? ? @gates.missing_for_none : @gates.missing(investigation.suspect)
        missing = (own + @loose_ends.of(investigation)).freeze
        state = decide(investigation, missing)
        Conclusion.new(
          investigation: investigation,
          state: state,
          missing: missing,
          why: sentences(investigation, state).freeze
        ).freeze
      end

      def decide(investigation, missing)
        return "open" if investigation.probability < @limits["likely"] || !@gates.separated?(investigation.suspect)

        investigation.probability >= proven_from(investigation.suspect) && missing.empty? ? "proven" : "likely"
      end

      def proven_from(suspect)
        return @posterior.system.catalogue.model("proven_none") if suspect.none?

        @gates.gate_for(suspect)["proven_from"] || @limits["proven"]
      end

      # The leading faults of all conclusions as one set.
      def together
        return conclusions.first.suspect if conclusions.size == 1

        members = conclusions.flat_map { |conclusion| conclusion.suspect.members }
        if conclusions.all? { |conclusion| conclusion.suspect.cause }
          cause = conclusions.filter_map { |conclusion| conclusion.suspect.cause }.first
        end
        Suspects::Suspect.new(
          members: members,
          cause: cause,
          probability: probability,
          place: conclusions.map { |conclusion| conclusion.suspect.place }.join(" + ")
        ).freeze
      end

      def contrary(conclusion)
        mine = @weights.select { |row| conclusion.investigation.covers?(row.observation.circuit.id) }
        mine.select(&:against?).map { |row| row.observation.test_id }
      end

      def sentences(investigation, state)
        return ["No test so far shows a present fault."] if investigation.suspect.none?

        mine = @weights.select { |row| investigation.covers?(row.observation.circuit.id) && row.support }
        sentences = mine.sort_by { |row| -row.bits }.first(6).map { |row| sentence(row) }
        codes = @body.scans.flat_map(&:codes).select { |code| investigation.circuits.include?(code.circuit_id) }
        sentences += codes.map { |code| "DTC #{code.label} is set for this circuit." }.uniq
        sentences << @gates.gate_for(investigation.suspect)[state == "proven" ? "met" : "reason"]
      end

      def sentence(row)
        result = row.observation.typed || row.observation.result.to_s
        "#{row.observation.test.title}: #{result} (#{row.support})."
      end
    end
  end
end
