# frozen_string_literal: true

module Gadwall
  module Job
    # The entry of a composed plan: its steps and drive whole, with what earlier plans signed carried over.
    module PlanEntry
      # dossier: Dossier; decisions: Array of Snapshot that the plan is for. Returns an Entries::Plan.
      def self.of(dossier, decisions)
        plan =
          Repair::Composer.plan_from(
            dossier.left_open,
            dossier.system,
            decisions.flat_map { |each| each.works(dossier) },
            codes: dossier.codes_by_circuit,
            intermittent: dossier.came_and_went?
          )
        steps = plan.steps
        Entries::Plan.new(
          "rules" => plan.rules,
          "for" =>
            decisions.map { |each| { "place" => each.place, "option" => each.choice.id, "name" => each.choice.name } },
          "touches" => plan.touches,
          "steps" => steps.map(&:to_entry),
          "drive" => plan.drive.map(&:to_entry),
          "carried" => carried(steps, signed_before(dossier)),
          "added" => earlier_ids(dossier).empty? ? [] : steps.map(&:id) - earlier_ids(dossier)
        )
      end

      # {step id => its last Entries::Step that is done}, by any plan of this job.
      def self.signed_before(dossier)
        dossier.log.steps.reject { |entry| entry.state == "started" }.to_h { |entry| [entry.step, entry] }
      end

      # Only a step that asks for what was entered, or for nothing, is carried over.
      def self.carried(steps, signed)
        steps
          .select { |step| signed.key?(step.id) && fits?(step, signed.fetch(step.id)) }
          .to_h { |step| [step.id, signed.fetch(step.id).seq] }
      end

      def self.fits?(step, entry)
        return true if entry.state == "not_needed"

        step.entered(entry.values, ticked: entry.ticks)
        true
      rescue InputError
        false
      end

      def self.earlier_ids(dossier)
        dossier.log.of(Entries::Plan::KIND).flat_map { |plan| plan.steps.map { |step| step["id"] } }.uniq
      end
      private_class_method :signed_before, :carried, :fits?, :earlier_ids
    end
  end
end
