# frozen_string_literal: true

module Gadwall
  module Job
    # What the last reading changed: by place, how much more or less likely it became.
    module Change
      LEAST = 0.002 # a place below this is not remembered

      # before: the Summary of the job before the reading, or nil; dossier: Dossier with it. Returns {"seq" => of the
      # reading, "moves" => {place => change, -1..1}}, or what stood where no reading was added; nil without any.
      def self.between(before, dossier)
        last = dossier.log.valid_entries.reverse.find { |entry| entry.evidence? && entry.respond_to?(:test) } or
          return nil
        stood = before&.change
        return stood if stood && stood["seq"] == last.seq && before.engine == Diagnosis.engine
        return nil unless before && last.seq == dossier.last_seq

        { "seq" => last.seq, "moves" => moves(before.places, dossier.assessment.posterior.places) }
      end

      def self.moves(before, after)
        (before.keys | after.keys)
          .to_h { |place| [place, (after.fetch(place, 0.0) - before.fetch(place, 0.0)).round(4)] }
          .reject { |_, moved| moved.abs < LEAST }
      end
      private_class_method :moves
    end
  end
end
