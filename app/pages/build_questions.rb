# frozen_string_literal: true

module Web
  module Pages
    # Plain questions about how this vehicle is built that matter now: where a circuit that they speak of is suspected
    # and nobody has answered yet.
    class BuildQuestions
      Choice = IntakePage::Choice
      SHOWN = 2
      SUSPECTED_FROM = 0.1 # chance of a fault in a circuit from which its build matters

      # dossier: Gadwall::Job::Dossier; assessment: of it. Returns an Array of Choice, two at most.
      def self.open(dossier, assessment)
        suspected =
          assessment.system.circuits.select do |circuit|
            assessment.posterior.circuit_probability(circuit) >= SUSPECTED_FROM
          end
        left = dossier.catalogue.questions.values.reject { |row| dossier.record.vehicle.key?(row["id"]) }
        left
          .select { |row| (row["families"] || []).intersect?(suspected.map(&:family)) && fits?(row, suspected) }
          .first(SHOWN)
          .map { |row| Choice.new(name: row["id"], label: row["text"], value: nil, choices: row["answers"]) }
      end

      # A question of one end of the vehicle is asked for that end.
      def self.fits?(row, suspected)
        side = row["id"][/_(front|rear)\z/, 1]
        side.nil? || suspected.any? { |circuit| circuit.id.include?(side) }
      end
      private_class_method :fits?
    end
  end
end
