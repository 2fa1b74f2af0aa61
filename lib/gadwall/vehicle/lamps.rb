# frozen_string_literal: true

module Gadwall
  module Vehicle
    # Which warning lamps a circuit lights (data/vehicle/lamps.yml): by its family; but where a lamp is the own one of
    # some circuits, these light it and no other.
    module Lamps
      # Chance (0..1) that a fault of a circuit, once its monitors see it, lights a lamp. id: of the lamp; circuit:
      # System::Circuit.
      def self.chance(catalogue, id, circuit)
        record = catalogue.lamps.fetch(id)
        own = catalogue.lamps.each_value.select { |each| own?(each, circuit) }
        return record["own_chance"] if own.include?(record)
        return 0.0 if own.any?

        record["lit_by"].find { |row| row["families"].include?(circuit.family) }&.fetch("chance") || 0.0
      end

      # Ids of the lamps and messages that some of these circuits light with at least this chance, or at all. circuits:
      # Array of System::Circuit.
      def self.of(catalogue, circuits, least: Float::MIN)
        catalogue.lamps.keys.select { |id| circuits.any? { |circuit| chance(catalogue, id, circuit) >= least } }
      end

      # Can a fault of the circuit light the lamp?
      def self.lights?(catalogue, id, circuit)
        chance(catalogue, id, circuit).positive?
      end

      def self.own?(record, circuit)
        (record["own_of"] || []).include?(circuit.id)
      end
      private_class_method :own?
    end
  end
end
