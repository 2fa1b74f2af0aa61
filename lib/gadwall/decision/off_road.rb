# frozen_string_literal: true

module Gadwall
  module Decision
    # Whether the fault itself keeps the vehicle off the road (data/repairs/off_road.yml), whatever was said at intake.
    module OffRoad
      # suspect: Diagnosis::Suspects::Suspect; catalogue: Knowledge::Catalogue. Returns ids of Decision::Triage, [] for
      # none.
      def self.triage(suspect, catalogue)
        rows = catalogue.off_road.select { |row| suspect.members.any? { |circuit, fault| holds?(row, circuit, fault) } }
        rows.map { |row| row["triage"] }.uniq
      end

      def self.holds?(row, circuit, fault)
        name = "#{circuit.family}/#{fault.place}.#{fault.mode}"
        row["faults"].any? { |pattern| File.fnmatch(pattern, name) } &&
          (row["circuits"].nil? || row["circuits"].include?(circuit.id))
      end
      private_class_method :holds?
    end
  end
end
