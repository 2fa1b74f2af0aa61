# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Which lit lamps the leading suspects do not explain. A lamp that nothing explains is a fault of its own, as a code
    # is, until the circuits that can light it have been measured.
    class LampExplanations
      # A lit lamp that is left over: its name, and the circuits that can light it and that nobody measured yet.
      Left = Struct.new(:name, :circuits)

      # posterior: Posterior; body: Evidence::Body; suspects: Array of Suspects::Suspect.
      def initialize(posterior, body, suspects)
        @posterior = posterior
        @body = body
        @lamps = posterior.system.catalogue.lamps
        @families = suspects.flat_map(&:members).map { |circuit, _| circuit.family }.uniq
      end

      # Array of Left.
      def left
        return [] if @families.empty?

        lit = @body.lamps.select { |lamp| lamp.lit && lamp.time != "never" }.map(&:id)
        lit
          .reject { |id| families_of(id).intersect?(@families) }
          .filter_map do |id|
            circuits = unmeasured(families_of(id))
            Left.new(@lamps.dig(id, "name"), circuits) if circuits.any?
          end
      end

      private

      def families_of(id)
        @lamps.fetch(id)["lit_by"].flat_map { |row| row["families"] }
      end

      # The likeliest first.
      def unmeasured(families)
        measured = @body.observations.map { |each| each.circuit.id }.uniq
        @posterior
          .system
          .circuits
          .select { |circuit| families.include?(circuit.family) && !measured.include?(circuit.id) }
          .sort_by { |circuit| -@posterior.circuit_probability(circuit) }
      end
    end
  end
end
