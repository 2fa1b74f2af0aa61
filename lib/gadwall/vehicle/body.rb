# frozen_string_literal: true

module Gadwall
  module Vehicle
    # One thing of the vehicle that several circuits may pass: it is looked at once for all of them, and what is wrong
    # with it is one fault with one repair.
    #
    # kind: "connector", "fuse_box", "ground_point" or "run" (harnesses side by side); key: alike for the circuits that
    # share it; name: in words; place: what this circuit calls it.
    Body =
      Struct.new(:kind, :key, :name, :place) do
        # Those that a circuit passes. circuit: System::Circuit. Returns an Array of Body.
        def self.of(circuit)
          connectors(circuit) + fuse_boxes(circuit) + ground_points(circuit) + runs(circuit) +
            beyond_connectors(circuit)
        end

        # A connector is that of one module, whatever another one calls its own.
        def self.connectors(circuit)
          circuit
            .harness
            .connectors
            .select(&:with)
            .map { |each| new("connector", [each.with, circuit.module].compact.join("_of_"), each.name, each.id) }
        end

        def self.fuse_boxes(circuit)
          circuit
            .harness
            .connectors
            .select { |each| each.kind == "fuse_box" }
            .map { |each| new("fuse_box", "#{each.id}_of_the_vehicle", each.name, each.id) }
        end

        def self.ground_points(circuit)
          point = circuit.harness.ground_point
          point ? [new("ground_point", "ground_#{point}", point, "ground_point")] : []
        end

        # The part of a circuit's harness that hangs at its wheel.
        def self.runs(circuit)
          corner = circuit.corner or return []

          circuit
            .harness
            .sections
            .select { |each| each.needs == "wheel_off" }
            .map { |each| new("run", "run_#{corner}", "#{corner.tr("_", " ")} wheel", each.id) }
        end

        # The harness that leaves a connector which circuits share, on the side away from the module; but for the
        # module's own, from which wires go everywhere.
        def self.beyond_connectors(circuit)
          circuit
            .harness
            .connectors
            .each_cons(2)
            .drop(1)
            .select { |connector, _| connector.with }
            .filter_map do |connector, further|
              section = circuit.harness.sections.find { |each| each.id == "#{connector.id}_to_#{further.id}" }
              section && new("run", "run_beyond_#{connector.with}", connector.name, section.id)
            end
        end
        private_class_method :connectors, :fuse_boxes, :ground_points, :runs, :beyond_connectors
      end
  end
end
