# frozen_string_literal: true

module Gadwall
  module Vehicle
    # One cause that reaches several circuits: a body that they share (connector, fuse box, ground point, harness run),
    # or the board that reads them.
    #
    # id: "shared.module_plug.wet"; rate: on the scale of the base rates; reach: chance that a member is affected;
    # members: [[Circuit, [fault index, ...]], ...]: how it shows in each circuit, as that circuit's own faults;
    # in_sections: is it harness that has no name of its own?
    SharedCause =
      Struct.new(:id, :place, :name, :rate, :reach, :members, :in_sections, :repair, :source, keyword_init: true) do
        # What its circuits call the place: Array of "circuit/place".
        def places
          members.flat_map do |circuit, faults|
            faults.map { |k| "#{circuit.id}/#{circuit.model.faults[k].place}" }.uniq
          end
        end

        # What an answer calls the place: a body by its own name, harness beyond a connector by its sections.
        def named_place
          in_sections ? places.join(" + ") : place
        end

        # Every shared cause of a vehicle's circuits, by the records of data/parts/shared.yml. system: System.
        def self.all(system)
          system
            .catalogue
            .failure_modes("shared")
            .flat_map do |record|
              groups(record, system).filter_map { |key, name, group| build(record, key, name, group) }
            end
        end

        # [[key, name, [[circuit, place], ...]], ...]
        def self.groups(record, system)
          return by_module(system.circuits) if record["at"] == "module"

          system
            .bodies
            .select { |body, _| body.kind == record["at"] }
            .group_by { |body, _| body.key }
            .map { |key, rows| [key, rows[0][0].name, rows.map { |body, circuit| [circuit, body.place] }] }
        end

        def self.by_module(circuits)
          circuits
            .select { |circuit| circuit.module && circuit.model.faults.any? { |fault| near_end_dead?(circuit, fault) } }
            .group_by(&:module)
            .map do |id, group|
              [
                "inputs_of_#{id}",
                group.first.harness.module_name(id),
                group.map { |circuit| [circuit, circuit.harness.template["near_end"]["id"]] }
              ]
            end
        end

        def self.near_end_dead?(circuit, fault)
          fault.place == circuit.harness.template["near_end"]["id"] && fault.mode == "dead"
        end

        def self.build(record, key, name, group)
          members =
            group.filter_map do |circuit, place|
              indices =
                circuit.model.faults.each_index.select do |k|
                  circuit.model.faults[k].place == place && record["modes"].include?(circuit.model.faults[k].mode)
                end
              [circuit, indices.freeze].freeze if indices.any?
            end
          return if members.size < 2

          new(
            id: "shared.#{key}.#{record["id"]}",
            place: "shared/#{key}",
            name: record["name"].gsub("{place}", name),
            rate: record["rate"],
            reach: record["reach"],
            members: members.freeze,
            in_sections: record["at"] == "run",
            repair: record["repair"],
            source: record["source"]
          ).freeze
        end
        private_class_method :groups, :by_module, :near_end_dead?, :build
      end
  end
end
