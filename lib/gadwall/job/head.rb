# frozen_string_literal: true

module Gadwall
  module Job
    # What stands over every page of a job: how far it is, and why the vehicle must not be driven. It takes a diagnosis
    # to tell, and is written with every act, so that no page beside the diagnosis has to wait for one.
    #
    # stage: one of Stage::ALL; sentence: where it stands; next_action: in words, "" for none; decidable: can a decision
    # be made, or was one?; off_road: ids of Decision::Triage.
    Head =
      Struct.new(:stage, :sentence, :next_action, :decidable, :off_road, keyword_init: true) do
        # dossier: Dossier. Never raises for a job that cannot be assessed.
        def self.of(dossier)
          stage = dossier.stage
          new(
            stage: stage.id,
            sentence: stage.sentence,
            next_action: stage.next_action.to_s,
            decidable: decidable?(dossier),
            off_road: dossier.off_road.to_a.freeze
          ).freeze
        end

        # A diagnosis that is likely can be decided on before it is proven.
        def self.decidable?(dossier)
          return true if dossier.log.decisions.any?

          dossier.log.scanned? && dossier.trouble.nil? && dossier.assessment.verdict.state != "open"
        end
        private_class_method :decidable?

        # Can the page of a stage be opened?
        def reached?(other)
          Stage::ALL.index(other) <= Stage::ALL.index(stage) || (other == "decide" && decidable)
        end
      end
  end
end
