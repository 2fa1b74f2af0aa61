# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # One line of investigation: circuits in which something is probably wrong for the same reason. Two unrelated faults
    # are two lines and can be followed side by side; circuits that one cause may explain are one.
    #
    # circuits: ids; places: {place => probability}, strongest first; suspect: the leading fault.
    class Investigation
      OPEN_FROM = 0.3 # a circuit at least so likely to be at fault is followed
      SECOND_FROM = 0.5 # a second place of one circuit at least so likely is a fault of its own
      LINKED_FROM = 0.1 # a cause at least so likely ties the circuits that it reaches

      # What one new part cures, wherever in it the fault sits: these repairs take everything of the same module with
      # them.
      WHOLE = %w[renew_module].freeze

      attr_reader :circuits, :places, :suspect, :probability

      # posterior: Posterior. Returns Array of Investigation, the surest first; one at least.
      def self.all(posterior)
        ids = followed(posterior)
        return [new(posterior, [])] if ids.empty?

        groups = ids.map { |id| [id] }
        ties(posterior, ids).each { |tie| groups = merge(groups, tie) }
        groups
          .flat_map { |group| [new(posterior, group), *seconds(posterior, group)] }
          .sort_by { |investigation| -investigation.probability }
      end

      # Two faults in one circuit: each place beside the leading one that is probably at fault as well.
      def self.seconds(posterior, group)
        return [] if group.size > 1

        posterior
          .places_of(group.first)
          .reject { |place, p| place.start_with?("shared/") || p < SECOND_FROM }
          .keys
          .sort_by { |place| -posterior.places_of(group.first)[place] }
          .drop(1)
          .filter_map { |place| at(posterior, place) }
      end

      # Circuits that are probably at fault, or the one that is more so than nothing.
      def self.followed(posterior)
        probabilities =
          posterior.circuits.values.to_h do |weights|
            [weights.circuit.id, posterior.circuit_probability(weights.circuit)]
          end
        ids =
          probabilities.select { |_, probability| probability >= OPEN_FROM }.keys.sort_by { |id| -probabilities[id] }
        return ids if ids.any?

        id, probability = probabilities.max_by(&:last)
        posterior.places.keys.first == Posterior::NONE_PLACE || probability < posterior.none ? [] : [id]
      end

      # Sets of followed circuits that one cause may explain together.
      def self.ties(posterior, ids)
        posterior
          .scenarios
          .select { |scenario| posterior.chance(scenario) >= LINKED_FROM }
          .map { |scenario| scenario.touched & ids }
          .select { |tie| tie.size > 1 }
      end

      def self.merge(groups, tie)
        tied, others = groups.partition { |group| group.intersect?(tie) }
        others + [tied.flatten]
      end
      private_class_method :followed, :ties, :merge, :seconds

      # The investigation of one place, whatever leads. place: "circuit/place". Returns nil for a place that is none.
      def self.at(posterior, place)
        return unless posterior.places.key?(place)

        suspect = posterior.suspect_at(place)
        suspect && new(posterior, suspect.members.map { |circuit, _| circuit.id }.uniq, first: place)
      end

      # first: the place to be taken as leading, or nil for the likeliest.
      def initialize(posterior, circuits, first: nil)
        @circuits = circuits.freeze
        @places = ranked(posterior).then { |all| first ? { first => all.fetch(first, 0.0) }.merge(all) : all }.freeze
        @suspect = lead(posterior)
        @probability = cured(posterior)
        freeze
      end

      # Is the circuit one of those that it follows? One without circuits follows all.
      def covers?(circuit_id)
        circuits.empty? || circuits.include?(circuit_id)
      end

      private

      def ranked(posterior)
        return posterior.places if circuits.empty?

        chances =
          circuits
            .flat_map { |id| posterior.places_of(id).to_a }
            .reject { |place, _| place.start_with?("shared/") }
            .to_h
        posterior.scenarios.each do |scenario|
          chances[scenario.place] = (chances[scenario.place] || 0.0) + posterior.chance(scenario) if scenario.cause &&
            scenario.touched.intersect?(circuits)
        end
        chances.sort_by { |place, p| [-p, place] }.to_h
      end

      # The chance of the leading place, with all else that the same repair or the same new part would cure.
      def cured(posterior)
        alike = posterior.bodies.alike(places.keys.first) | renewed_with(posterior)
        [places.sum { |place, p| alike.include?(place) ? p : 0 }, 1.0].min
      end

      def renewed_with(posterior)
        return [] unless WHOLE.include?(suspect.repair)

        posterior
          .suspects
          .select { |each| each.repair == suspect.repair && each.circuit.module == suspect.circuit.module }
          .map(&:place)
      end

      # The likeliest fault of the leading place, by itself.
      def lead(posterior)
        place = places.keys.first
        posterior.suspect_at(place) || posterior.suspect_at(Posterior::NONE_PLACE)
      end
    end
  end
end
