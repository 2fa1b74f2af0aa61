# frozen_string_literal: true

module Gadwall
  module Job
    # The entry of a composed plan: its steps whole, with what earlier plans signed carried over.
    module PlanEntry
      # dossier: Dossier; decisions: Array of Snapshot that the plan is for; jobs: [[Suspect, Choice], ...] of those
      # whose suspect is at hand. Returns an Entries::Plan.
      def self.of(dossier, decisions, jobs)
        steps = Repair::Composer.steps(dossier.sheet, jobs + missing_jobs(dossier, decisions, jobs), dossier.catalogue)
        signed = signed_before(dossier)
        Entries::Plan.new(
          "rules" => Repair::Composer::RULES,
          "for" =>
            decisions.map { |each| { "place" => each.place, "option" => each.choice.id, "name" => each.choice.name } },
          "steps" => steps.map(&:to_entry),
          "carried" => carried(steps, signed),
          "added" => earlier_ids(dossier).empty? ? [] : steps.map(&:id) - earlier_ids(dossier)
        )
      end

      # Decisions of before, whose suspect is found again by its place.
      def self.missing_jobs(dossier, decisions, jobs)
        places = jobs.map { |suspect, _| suspect.place }
        decisions
          .reject { |each| places.include?(each.place) }
          .filter_map do |each|
            suspect = dossier.assessment.posterior.suspects.find { |other| other.place == each.place }
            suspect && [suspect, each.choice]
          end
      end

      # {step id => its last Entries::Step that is done}, by any plan of this job.
      def self.signed_before(dossier)
        dossier.log.steps.reject { |entry| entry.state == "started" }.to_h { |entry| [entry.step, entry] }
      end

      # Only a step that asks for the same figure, or for none, is carried over.
      def self.carried(steps, signed)
        steps
          .select { |step| signed.key?(step.id) && fits?(step, signed.fetch(step.id)) }
          .to_h { |step| [step.id, signed.fetch(step.id).seq] }
      end

      def self.fits?(step, entry)
        step.figure(entry.value)
        true
      rescue InputError
        entry.state == "not_needed"
      end

      def self.earlier_ids(dossier)
        dossier.log.of(Entries::Plan::KIND).flat_map { |plan| plan.steps.map { |step| step["id"] } }.uniq
      end
      private_class_method :missing_jobs, :signed_before, :carried, :fits?, :earlier_ids
    end
  end
end
