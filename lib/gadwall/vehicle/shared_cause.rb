# frozen_string_literal: true

module Gadwall
  module Vehicle
    # One cause that reaches several circuits: a connector that they share, or the board that reads them.
    #
    # id: "shared.module_plug.wet"; rate: on the scale of the base rates; reach: chance that a member is affected;
    # members: [[Circuit, [fault index, ...]], ...]: how it shows in each circuit, as that circuit's own faults.
    SharedCause = Struct.new(:id, :place, :name, :rate, :reach, :members, :repair, :source, keyword_init: true) do
      # Every shared cause of these circuits, by the records of data/parts/shared.yml.
      def self.all(circuits, catalogue)
        catalogue.failure_modes("shared").flat_map do |record|
          groups(record, circuits).filter_map { |key, name, group| build(record, key, name, group) }
        end
      end

      # [[key, name, [[circuit, place], ...]], ...]
      def self.groups(record, circuits)
        record["at"] == "joint" ? by_connector(circuits) : by_module(circuits)
      end

      def self.by_connector(circuits)
        found = circuits.flat_map { |circuit| circuit.line.joints.select(&:with).map { |joint| [[joint.with, circuit.module], circuit, joint] } }
        found.group_by(&:first).map do |(key, module_id), rows|
          [[key, module_id].compact.join("_of_"), rows.first[2].name, rows.map { |_, circuit, joint| [circuit, joint.id] }]
        end
      end

      def self.by_module(circuits)
        circuits.select { |circuit| circuit.module && circuit.model.faults.any? { |fault| head_dead?(circuit, fault) } }.group_by(&:module)
                .map { |id, group| ["inputs_of_#{id}", group.first.line.module_name(id), group.map { |circuit| [circuit, circuit.line.template["head"]["id"]] }] }
      end

      def self.head_dead?(circuit, fault)
        fault.place == circuit.line.template["head"]["id"] && fault.mode == "dead"
      end

      def self.build(record, key, name, group)
        members = group.filter_map do |circuit, place|
          indices = circuit.model.faults.each_index.select { |k| circuit.model.faults[k].place == place && record["modes"].include?(circuit.model.faults[k].mode) }
          [circuit, indices.freeze].freeze if indices.any?
        end
        return if members.size < 2

        new(id: "shared.#{key}.#{record['id']}", place: "shared/#{key}", name: record["name"].gsub("{place}", name), rate: record["rate"], reach: record["reach"],
            members: members.freeze, repair: record["repair"], source: record["source"]).freeze
      end
      private_class_method :groups, :by_connector, :by_module, :head_dead?, :build
    end
  end
end
