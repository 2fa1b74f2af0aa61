# frozen_string_literal: true

module Gadwall
  module Circuits
    # Holds a meter to a line in one state: what would it show with this condition in the line?
    # Every reading comes from the solved network; no table of good values stands anywhere.
    class Reader
      VOLTMETER_SIEMENS = 1.0e-7 # 10 Mohm, data/meter.yml

      # state: Line::State.
      def initialize(line, state)
        @line = line
        @network = line.network(state, sink_ampere: line.sink ? 1.0 : 0.0)
        @elements = @network.elements.to_h { |element| [element.id, element] }
        @nodes = @network.nodes.to_set
        @sources = @network.elements.grep(Network::Source)
        @sink = @network.elements.grep(Network::Sink).any?
        @prepared = {}
      end

      # kind: "volts", "ohms" or "amperes"; probes: two nodes; condition: Condition; ampere: the sink's level, 0 without.
      # scale_ohm and scale_drive: {element id => factor}, to see what a part's tolerance does. Returns a Float in the
      # bare unit. Volts are read through a 10 Mohm meter; amperes with the meter in place of the contact between probes.
      def read(kind, probes, condition, ampere: 0.0, scale_ohm: {}, scale_drive: {})
        a, b = probes.map { |probe| @line.node(probe) }
        changes = changes(condition) + scaled(scale_ohm, condition)
        return [prepared(condition, b).ohms(a, b, changes: changes), 0.0].max if kind == "ohms"

        changes += [meter(a, b)] if kind == "volts"
        volts = prepared(condition, Network::GROUND).volts(a, b, changes: changes, drives: drives(condition, scale_ohm, scale_drive),
                                                                 sink_ampere: ampere * condition.sink)
        kind == "volts" ? volts : volts / contact_ohm(a, b, condition)
      end

      # Has the element a part in this state: with its resistance, or (drive) with what it drives?
      def plays?(id, drive: false)
        element = @elements[id] or return false

        drive ? !element.is_a?(Network::Resistor) : element.respond_to?(:ohm)
      end

      # Does the condition change nothing that stands in this state's network?
      def untouched_by?(condition)
        (condition.sink == 1.0 || !@sink) && changes(condition).empty? &&
          condition.drives.all? { |id, factor| factor == 1.0 || !@sources.any? { |source| source.id == id } }
      end

      private

      # The network without what the condition opens, factorised; kept for the next reading.
      def prepared(condition, reference)
        omit = opened(condition)
        @prepared[[reference, omit]] ||= Prepared.new(@network, reference: reference, omit: omit)
      end

      # Elements of this state that the condition puts something in series with. A joint apart takes no part.
      def opened(condition)
        condition.series.keys.select { |id| @elements[id].respond_to?(:ohm) }
      end

      def changes(condition)
        left = opened(condition).map { |id| Prepared::Change.new(@elements[id].a, @elements[id].b, 1.0 / (@elements[id].ohm + condition.series[id])) }
        left + condition.bridges.select { |a, b, _| @nodes.include?(a) && @nodes.include?(b) }
                                .map { |a, b, ohm| Prepared::Change.new(a, b, 1.0 / ohm) }
      end

      def meter(a, b)
        Prepared::Change.new(a, b, VOLTMETER_SIEMENS)
      end

      def scaled(scale_ohm, condition)
        scale_ohm.filter_map do |id, factor|
          element = @elements[id]
          next unless element.respond_to?(:ohm)

          now = element.ohm + condition.series.fetch(id, 0.0)
          Prepared::Change.new(element.a, element.b, (1.0 / (now * factor)) - (1.0 / now))
        end
      end

      # A source behind a resistance is kept as a current; when its resistance changes, so does that current.
      def drives(condition, scale_ohm, scale_drive)
        @sources.each_with_object({}) do |source, drives|
          added = condition.series.fetch(source.id, 0.0)
          factor = condition.drives.fetch(source.id, 1.0) * scale_drive.fetch(source.id, 1.0) *
                   source.ohm / ((source.ohm + added) * scale_ohm.fetch(source.id, 1.0))
          drives[source.id] = factor unless factor == 1.0
        end
      end

      def contact_ohm(a, b, condition)
        contact = @network.elements.find { |element| element.a == a && element.b == b && element.is_a?(Network::Resistor) }
        contact.ohm + condition.series.fetch(contact.id, 0.0)
      end
    end
  end
end
