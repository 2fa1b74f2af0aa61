# frozen_string_literal: true

module Gadwall
  module Job
    # Jobs decided before decisions were kept whole (entries of version 1): their snapshot and plan are made by the
    # place that was signed and the rules of then (data/archive), whatever leads now.
    class FirstFormat
      # Repairs with a step of their own then; whatever else is replaced shared one.
      OWN_STEP = %w[mend_wire mend_joint clean_ground renew_sensor renew_ring clean_ring renew_module].freeze
      ADJUSTED = %w[calibrate code_module write_parameters remount].freeze

      # log: Log; assessment: Diagnosis::Assessment of its evidence; shop: Decision::Shop.
      def initialize(log, assessment, shop:)
        @log = log
        @assessment = assessment
        @shop = shop
        @catalogue = log.system.catalogue
      end

      # Is every conclusion decided? Once work has begun on the decision, it is, whatever the engine concludes now.
      def complete?
        begun = @log.steps.any? || @log.handed_over?
        @log.decisions.any? && (begun || @log.decisions.size >= @assessment.verdict.conclusions.size)
      end

      # entry: Entries::Decision of version 1. Returns a Snapshot, or nil where its place is not known any more.
      def snapshot(entry)
        conclusion = conclusion_of(entry) or return nil
        options = Decision::Options.new(@assessment, conclusion, shop: @shop, triage: @log.triage)
        Snapshot.new(entry, Snapshot.of(options, @assessment, rate: @shop.rate))
      end

      # The steps as the first rules composed them: Array of Repair::Step.
      def steps
        words = @log.decisions.flat_map { |entry| words_of(entry) }.uniq
        rows = @catalogue.first_steps.values.select { |row| (row["when"] - words).empty? }
        rows.map { |row| Repair::Step.first(row, words, @catalogue) }.freeze
      end

      private

      # The conclusion at the place that was signed: as it stands now, or made anew for that place.
      def conclusion_of(entry)
        conclusions = @assessment.verdict.conclusions
        return conclusions.first if entry.place.nil?

        conclusions.find { |conclusion| conclusion.suspect.place == entry.place } ||
          @assessment.conclusion_at(entry.place)
      end

      def words_of(entry)
        suspect = conclusion_of(entry)&.suspect
        return [] if suspect.nil? || suspect.none?

        sheet = @log.system.sheet
        built = ["always", *("accumulator" if sheet.booster == "electric_pump"), sheet.park_brake]
        needs = @catalogue.first_needs.fetch(entry.option, [])
        entry.option == "watch" ? [*built, *needs, "recall"] : [*built, *needs, *repair_words(sheet, suspect)]
      end

      def repair_words(sheet, suspect)
        module_work = suspect.repair == "renew_module"
        wheel = suspect.circuit.wheel? && !module_work
        [
          step_of(suspect.repair),
          *("wheel" if wheel),
          *("rear" if wheel && suspect.circuit.id.start_with?("rear")),
          *("module" if module_work),
          *("bleed" if module_work && suspect.circuit.module == "abs" && sheet.unit == "one_piece"),
          *("high_voltage" if module_work && sheet.power != "combustion")
        ]
      end

      def step_of(repair)
        return repair if OWN_STEP.include?(repair)

        ADJUSTED.include?(repair) ? "adjust" : "part"
      end
    end
  end
end
