# frozen_string_literal: true

module Gadwall
  module CLI
    # `bin/gadwall plan` and `options`: the composed work of a case, and the ways to mend a place.
    class PlanFile
      # kase: CaseFile.
      def initialize(kase)
        @kase = kase
        @system = kase.system
      end

      # The plan of what the case decided: the one that was signed, or composed from its decisions where none was.
      # Returns a Hash. Raises InputError where it decided nothing.
      def decided
        plan = @kase.log.plan
        return signed(plan) if plan

        decisions = @kase.log.decisions
        if decisions.empty?
          raise InputError.new(
                  field: "case",
                  given: "no decision in its log",
                  expected: "a case that holds a decision",
                  fix: "Or name what is to be repaired: --place CIRCUIT/PLACE."
                )
        end
        placed(decisions.flat_map { |each| each.place.to_s.split(" + ").map { |place| [place, each.option] } })
      end

      # The plan for places. pairs: [[location, option id or nil], ...]. Returns a Hash. Raises UnknownNameError.
      def placed(pairs)
        works = pairs.map { |location, option| options_at(location).work(option) }
        dossier = Job::Dossier.new(nil, @kase.log)
        more = { codes: dossier.codes_by_circuit, intermittent: dossier.came_and_went? }
        Repair::Composer.plan_from(dossier.left_open, @system, works, **more).to_json_hash
      end

      # The ways to mend a place. Returns {options: [...]}.
      def options(location)
        { options: options_at(location).choices.map { |choice| choice.to_h.except(:repair, :expected) } }
      end

      private

      def options_at(location)
        seen = @kase.log.entries.any? { |entry| entry.evidence? || entry.kind == "scan" }
        Decision::PlaceOptions.new(@system, location, triage: @kase.log.triage, &(-> { assessment } if seen))
      end

      def assessment
        @assessment ||= Diagnosis.assess(@system, @kase.log.body)
      end

      def signed(plan)
        Repair::Plan.new(
          rules: plan.rules,
          touches: plan.touches,
          steps: plan.steps.map { |row| Repair::Step.from_h(row) },
          drive: (plan.drive || []).map { |row| Repair::DriveLegs::Leg.from_h(row) }
        ).to_json_hash
      end
    end
  end
end
