# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Whether the vehicle must not be driven as it is (data/repairs/off_road.yml): by what was said of it, by the lamps
    # that burn, and by the faults that are likely enough. Reasons are ids of Decision::Triage.
    module OffRoad
      # suspects: Array of Suspects::Suspect with their chances; body: Evidence::Body; catalogue: Knowledge::Catalogue.
      # Returns ids, [] where the vehicle may be driven.
      def self.reasons(suspects, body, catalogue)
        least = catalogue.model("off_road_chance")
        seen = catalogue.off_road.select { |row| seen?(row, body) || chance(row, suspects) >= least }
        (body.triage + seen.map { |row| row["triage"] }).uniq.freeze
      end

      # What a fault itself keeps off the road, whatever was said. suspect: Suspects::Suspect. Returns ids, [] for none.
      def self.triage(suspect, catalogue)
        rows = catalogue.off_road.select { |row| of?(row, suspect) }
        rows.map { |row| row["triage"] }.uniq
      end

      # What lamps that burn say of it. lit: ids of data/vehicle/lamps. Returns ids.
      def self.of_lamps(lit, catalogue)
        catalogue.off_road.select { |row| (row["lamps"] || []).intersect?(lit) }.map { |row| row["triage"] }.uniq
      end

      # Does a lamp that burns, or what the customer says, speak of it?
      def self.seen?(row, body)
        lit = body.lamps.select(&:lit).map(&:id)
        (row["lamps"] || []).intersect?(lit) || (row["symptoms"] || []).intersect?(body.symptoms.map(&:id))
      end

      # The chance that one of its faults is there.
      def self.chance(row, suspects)
        suspects.sum { |suspect| of?(row, suspect) ? suspect.probability : 0.0 }
      end

      def self.of?(row, suspect)
        (row["faults"] || []).any? && suspect.members.any? { |circuit, fault| holds?(row, circuit, fault) }
      end

      def self.holds?(row, circuit, fault)
        return false unless row["circuits"].nil? || row["circuits"].include?(circuit.id)

        name = "#{circuit.family}/#{fault.place}.#{fault.mode}"
        row["faults"].any? { |pattern| File.fnmatch(pattern, name) }
      end
      private_class_method :seen?, :chance, :of?, :holds?
    end
  end
end
