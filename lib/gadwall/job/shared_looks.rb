# frozen_string_literal: true

module Gadwall
  module Job
    # A connector, fuse box, ground point or harness run that several circuits pass is one body (Vehicle::Body): a look
    # that speaks of the body as a whole speaks for all of them. A stain or a burnt terminal is that of one circuit and
    # stays there.
    module SharedLooks
      # By the record of a look: outcomes that speak of the whole body.
      WHOLE = {
        "look_joint" => %w[good loose wet],
        "look_ground" => %w[good bad loose],
        "look_section" => %w[good]
      }.freeze

      # observations: Array of Observations::Observation; system: Vehicle::System. Returns them with a copy of each such
      # look for every other circuit that passes the body, before the look itself.
      def self.spread(observations, system)
        done = observations.map { |each| [each.circuit.id, each.test.id] }
        observations.flat_map do |look|
          body = body_of(look, system)
          next [look] unless body

          others(look, body, system).reject { |copy| done.include?([copy.circuit.id, copy.test.id]) } + [look]
        end
      end

      # The Vehicle::Body looked at, or nil.
      def self.body_of(look, system)
        return unless WHOLE.fetch(look.test.record["id"], []).include?(look.result)

        system.bodies.find { |body, circuit| circuit.id == look.circuit.id && body.place == look.test.place }&.first
      end

      def self.others(look, body, system)
        system
          .bodies
          .select { |other, circuit| other.key == body.key && circuit.id != look.circuit.id }
          .flat_map do |other, circuit|
            tests = circuit.model.tests.values.select { |test| same?(test, look.test, other.place) }
            tests.map { |test| look.dup.tap { |copy| (copy.circuit = circuit) && (copy.test = test) }.freeze }
          end
      end

      def self.same?(test, looked, place)
        test.record["id"] == looked.record["id"] && test.place == place
      end
      private_class_method :body_of, :others, :same?
    end
  end
end
