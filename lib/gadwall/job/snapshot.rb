# frozen_string_literal: true

module Gadwall
  module Job
    # A decision as it was signed: what was suspected and how surely, why, what was missing, every option as it was
    # shown, the one chosen, who said yes. Read from the log alone; nothing that is learned later changes it.
    class Snapshot
      CHOICE = Decision::Options::Choice

      # What a decision is made of, for the log. options: Decision::Options as shown; assessment: Diagnosis::Assessment;
      # rate: the workshop's price of an hour. Returns a Hash with String keys.
      def self.of(options, assessment, rate:)
        conclusion = options.conclusion
        {
          "suspect" => suspect(conclusion.suspect),
          "works" => works_of(conclusion.suspect),
          "circuits" => conclusion.investigation.circuits,
          "probability" => conclusion.probability,
          "state" => conclusion.state,
          "why" => conclusion.why,
          "missing" => conclusion.missing.map(&:text),
          "options" => options.choices.map { |choice| choice.to_h.transform_keys(&:to_s) },
          "comparison" => comparison(options.comparison),
          "triage" => options.triage,
          "confirming" => confirming(conclusion, assessment),
          "causes" => causes(conclusion),
          "rate" => rate,
          "engine" => Diagnosis.engine
        }
      end

      def self.suspect(suspect)
        { "id" => suspect.id, "text" => suspect.text, "place" => suspect.place, "repair" => suspect.repair }
      end

      # Where the hand goes.
      def self.works_of(suspect)
        suspect.members.map { |circuit, fault| { "circuit" => circuit.id, "place" => fault.place } }.uniq
      end

      def self.comparison(compared)
        compared &&
          compared
            .to_h
            .transform_keys(&:to_s)
            .merge("test" => compared.test.test.title, "minutes" => compared.test.minutes)
      end

      # The reading that spoke most for the suspect, to be repeated after the repair.
      def self.confirming(conclusion, assessment)
        covered =
          assessment.weights.select do |row|
            conclusion.investigation.covers?(row.observation.circuit.id) &&
              !assessment.coverage.normal?(row.observation)
          end
        strongest = covered.max_by(&:bits)&.observation
        return [] unless strongest

        [{ "test" => strongest.test_id, "typed" => strongest.typed }]
      end

      # What it turned out to be, for the workshop's closed cases: only what was proven.
      def self.causes(conclusion)
        return [] if !conclusion.proven? || conclusion.suspect.cause

        conclusion.suspect.members.map { |circuit, fault| { "template" => circuit.harness.id, "fault" => fault.id } }
      end
      private_class_method :suspect, :works_of, :comparison, :confirming, :causes

      attr_reader :entry

      # entry: Entries::Decision of version 2, or one of version 1 with the snapshot that FirstFormat made for it.
      # data: the Hash of Snapshot.of.
      def initialize(entry, data = entry.snapshot)
        @entry = entry
        @data = data
        freeze
      end

      # Location of what was decided on.
      def place
        @data.dig("suspect", "place")
      end

      # The suspect in words.
      def text
        @data.dig("suspect", "text")
      end

      # 0..1, as it stood.
      def probability
        @data["probability"]
      end

      # "open", "likely" or "proven".
      def state
        @data["state"]
      end

      # Was it proven when it was signed?
      def proven?
        state == "proven"
      end

      %w[circuits why missing triage confirming causes rate engine comparison].each do |name|
        define_method(name) { @data[name] }
      end

      # Repair::Work of each place that it is for. dossier: Dossier. What was signed before places were kept is read
      # from its location.
      def works(dossier)
        places.filter_map do |id, place|
          circuit = dossier.system.circuits.find { |each| each.id == id } or next
          Repair::Work.at(
            circuit,
            place,
            repair: @data.dig("suspect", "repair"),
            option: entry.option,
            system: dossier.system
          )
        end
      end

      # Array of Decision::Options::Choice as they were shown.
      def choices
        @data["options"].map do |row|
          CHOICE.new(**row.slice(*CHOICE.members.map(&:to_s)).transform_keys(&:to_sym)).freeze
        end
      end

      # The option that was chosen.
      def choice
        choices.find { |choice| choice.id == entry.option }
      end

      private

      # [[circuit id, place], ...].
      def places
        kept = @data["works"]
        return kept.map { |row| row.values_at("circuit", "place") } if kept

        place.to_s.split(" + ").map { |each| each.split("/", 2) }
      end
    end
  end
end
