# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Whether the vehicle must not be driven as it is (data/repairs/off_road.yml): by what was said of it, by the lamps
    # that burn, by what was seen, and by the faults that are likely enough. Reasons are ids of Decision::Triage.
    module OffRoad
      # suspects: Array of Suspects::Suspect with their chances; body: Observations::Body; catalogue:
      # Knowledge::Catalogue. Returns ids, [] where the vehicle may be driven.
      def self.reasons(suspects, body, catalogue)
        least = catalogue.model("off_road_chance")
        chances = chances(suspects, catalogue)
        reports = reports(body)
        seen = catalogue.off_road.select { |row| reported?(row, reports) || chances[row["id"]] >= least }
        (body.triage + seen.map { |row| row["triage"] }).uniq.freeze
      end

      # What a fault itself keeps off the road, whatever was said. suspect: Suspects::Suspect. Returns ids, [] for none.
      def self.triage(suspect, catalogue)
        known = suspect.members.to_h { |circuit, _| [circuit, by_fault(circuit, catalogue)] }
        rows(suspect, known).map { |row| row["triage"] }.uniq
      end

      # What lamps that burn say of it. lit: ids of data/vehicle/lamps. Returns ids.
      def self.of_lamps(lit, catalogue)
        catalogue.off_road.select { |row| reported?(row, { "lamps" => lit }) }.map { |row| row["triage"] }.uniq
      end

      # What speaks for itself, by the fields of the rows: lamps that burn, what the customer says, what was seen last.
      def self.reports(body)
        {
          "lamps" => body.lamps.select(&:lit).map(&:id),
          "symptoms" => body.symptoms.map(&:id),
          "seen" => last_seen(body)
        }
      end

      # Does some of it speak of a row?
      def self.reported?(row, reports)
        reports.any? { |field, ids| (row[field] || []).intersect?(ids) }
      end

      # What each test showed when it was last done: "family/test.outcome".
      def self.last_seen(body)
        last = body.observations.sort_by(&:seq).to_h { |each| [each.test_id, each] }.values
        last.map { |each| "#{each.circuit.family}/#{each.test.id}.#{each.result}" }
      end

      # The chance that one of the faults of each row is there: {id => chance}.
      def self.chances(suspects, catalogue)
        known = Hash.new { |kept, circuit| kept[circuit] = by_fault(circuit, catalogue) }.compare_by_identity
        suspects.each_with_object(Hash.new(0.0)) do |suspect, sums|
          rows(suspect, known).each { |row| sums[row["id"]] += suspect.probability }
        end
      end

      # Rows that speak of a suspect's faults. known: {circuit => by_fault}.
      def self.rows(suspect, known)
        found = suspect.members.map { |circuit, fault| known[circuit].fetch(fault) }
        found.size == 1 ? found.first : found.flatten(1).uniq
      end

      # Asked of every suspect after every reading: kept with the circuit. {fault => rows}.
      def self.by_fault(circuit, catalogue)
        circuit
          .model
          .cached([:off_road, circuit.id]) do
            circuit
              .model
              .faults
              .to_h { |fault| [fault, catalogue.off_road.select { |row| holds?(row, circuit, fault) }] }
              .compare_by_identity
          end
      end

      def self.holds?(row, circuit, fault)
        return false unless row["circuits"].nil? || row["circuits"].include?(circuit.id)

        name = "#{circuit.family}/#{fault.place}.#{fault.mode}"
        (row["faults"] || []).any? { |pattern| File.fnmatch(pattern, name) }
      end
      private_class_method :reports, :reported?, :last_seen, :chances, :rows, :by_fault, :holds?
    end
  end
end
