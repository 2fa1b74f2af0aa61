# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Places that are one thing of the vehicle: the connector that three circuits call their own, the board that reads
    # them. A fault there that shows in one circuit and one that shows in several are mended by the same repair, so no
    # test is worth its minutes for telling them apart.
    class Bodies
      # posterior: Posterior.
      def initialize(posterior)
        @posterior = posterior
        @system = posterior.system
        @beside = {}
      end

      # What a place is part of: the place of the shared cause there, or itself. place: "circuit/place".
      def at(place)
        @system.body_places.fetch(place, place)
      end

      # The place with all others that are the same thing: ["fluid_level/module_plug", "shared/module_plug_of_abs"].
      def alike(place)
        body = at(place)
        @system.body_places.select { |_, other| other == body }.keys | [place, body]
      end

      # {body => chance (0..1) that something is wrong with it which does not show in this circuit}, for bodies that the
      # circuit passes.
      def beside(circuit)
        @beside[circuit.id] ||= passed(circuit)
          .to_h { |body| [body, elsewhere(circuit, body)] }
          .reject { |_, chance| chance < LEAST }
      end

      LEAST = 0.002 # a smaller chance moves no test's rank

      private

      def passed(circuit)
        @system.body_places.filter_map { |place, body| body if place.start_with?("#{circuit.id}/") }.uniq
      end

      def elsewhere(circuit, body)
        others = alike(body).reject { |place| place == body || place.start_with?("#{circuit.id}/") }
        own = others.sum { |place| @posterior.places.fetch(place, 0.0) }
        here = @posterior.beliefs(circuit).rows.sum { |place, _, _, p| place == body ? p : 0.0 }
        own + [@posterior.places.fetch(body, 0.0) - here, 0.0].max
      end
    end
  end
end
