# frozen_string_literal: true

module Gadwall
  module Job
    # Where today's assessment differs from what was signed: told, never acted on. Reopening the diagnosis is a person's
    # act.
    module Differences
      NOTEWORTHY = 0.1 # change of a probability from which it is worth a word

      # dossier: Dossier of a job that is decided. Returns an Array of sentences.
      def self.of(dossier)
        dossier.decisions.filter_map { |signed| of_one(signed, dossier.assessment) } + unsigned(dossier)
      rescue AssessmentError => error
        [error.message]
      end

      def self.of_one(signed, assessment)
        now =
          assessment.verdict.conclusions.find do |conclusion|
            conclusion.investigation.circuits.intersect?(signed.circuits)
          end
        return "Signed: #{signed.text}. Today's assessment finds no fault there." unless now

        if now.suspect.place != signed.place
          "Signed: #{signed.text}. Today's assessment would lead with: " \
            "#{now.suspect.text} (#{percent(now.probability)})."
        elsif now.state != signed.state || (now.probability - signed.probability).abs >= NOTEWORTHY
          "Signed as #{signed.state} at #{percent(signed.probability)}; " \
            "today's assessment: #{now.state}, #{percent(now.probability)}."
        end
      end

      # What is suspected now and was not decided.
      def self.unsigned(dossier)
        dossier
          .open_offers
          .reject { |offer| offer.suspect.none? }
          .map do |offer|
            "Not part of what was signed: #{offer.suspect.text} (#{percent(offer.conclusion.probability)})."
          end
      end

      def self.percent(probability)
        "#{(probability * 100).round} %"
      end
      private_class_method :of_one, :unsigned, :percent
    end
  end
end
