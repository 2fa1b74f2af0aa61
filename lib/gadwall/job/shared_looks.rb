# frozen_string_literal: true

module Gadwall
  module Job
    # A connector that several circuits share is one body: a look that says how it sits, or that water is in it,
    # speaks for all of them. A stain or a burnt terminal is that of one circuit and stays there.
    module SharedLooks
      WHOLE = %w[good loose wet].freeze # outcomes that speak of the body as a whole

      # observations: Array of Evidence::Observation; system: Vehicle::System. Returns them with a copy of each such
      # look for every other circuit of the same module that passes the connector, before the look itself.
      def self.spread(observations, system)
        done = observations.map { |each| [each.circuit.id, each.test.id] }
        observations.flat_map do |look|
          body = body_of(look)
          next [look] unless body

          others(look, body, system).reject { |copy| done.include?([copy.circuit.id, copy.test.id]) } + [look]
        end
      end

      # The name that circuits share of the connector looked at, or nil.
      def self.body_of(look)
        return unless look.test.record["id"] == "look_joint" && WHOLE.include?(look.result)

        look.circuit.harness.connectors.find { |each| each.id == look.test.place }&.with
      end

      def self.others(look, body, system)
        system.circuits.filter_map do |circuit|
          next if circuit.id == look.circuit.id || circuit.module != look.circuit.module

          connector = circuit.harness.connectors.find { |each| each.with == body }
          test = connector && circuit.model.tests["look_joint.#{connector.id}"]
          look.dup.tap { |copy| (copy.circuit = circuit) && (copy.test = test) }.freeze if test
        end
      end
      private_class_method :body_of, :others
    end
  end
end
