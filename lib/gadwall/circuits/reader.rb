# frozen_string_literal: true

module Gadwall
  module Circuits
    # Holds a meter to a line in one state: what would it show with this condition in the line?
    # Every reading comes from the solved network; no table of good values stands anywhere.
    class Reader
      VOLTMETER_SIEMENS = 1.0e-7 # 10 Mohm, data/meter.yml
      NOTHING = {}.freeze

      # state: Line::State.
      def initialize(line, state)
        @line = line
        @network = line.network(state, sink_ampere: line.sink ? 1.0 : 0.0)
        @elements = @network.elements.to_h { |element| [element.id, element] }
        @nodes = @network.nodes.to_set
        @sources = @network.elements.grep(Network::Source)
        @sink = @network.elements.grep(Network::Sink).first
        @prepared = {}
        @changed = {}.compare_by_identity
      end

      # kind: "volts", "ohms" or "amperes"; probes: two nodes; condition: Condition; ampere: the sink's level, 0 without.
      # scale_ohm and scale_drive: {element id => factor}, to see what a part's tolerance does. Returns a Float in the
      # bare unit. Volts are read through a 10 Mohm meter; amperes with the meter in place of the contact between probes.
      def read(kind, probes, condition, ampere: 0.0, scale_ohm: NOTHING, scale_drive: NOTHING)
        a, b = probes.map { |probe| @line.node(probe) }
        return [ohms(a, b, condition, scale_ohm), 0.0].max if kind == "ohms"

        rows = kind == "amperes" ? prepared.current_of(contact(a, b).id) : prepared.between(a, b)
        network, x = driven(condition, ampere * condition.sink, scale_ohm, scale_drive)
        value = network.across(x, rows)
        kind == "volts" ? value / (1 + (network.ohms(rows) * VOLTMETER_SIEMENS)) : value
      end

      # Ohms behind a pair of probes, sources off: above some megohms a voltmeter shows ghosts.
      def source_ohm(probes, condition)
        changed(condition, NOTHING).ohms(prepared.between(*probes.map { |probe| @line.node(probe) }))
      end

      # Has the element a part in this state: with its resistance, or (drive) with what it drives?
      def plays?(id, drive: false)
        element = @elements[id] or return false

        drive ? !element.is_a?(Network::Resistor) : element.respond_to?(:ohm)
      end

      # Does the condition change nothing that stands in this state's network?
      def untouched_by?(condition)
        (condition.sink == 1.0 || !@sink) && condition.series.keys.none? { |id| opens?(id) } &&
          condition.bridges.none? { |bridge| spans?(bridge) } &&
          condition.drives.all? { |id, factor| factor == 1.0 || !@sources.any? { |source| source.id == id } }
      end

      private

      def ohms(a, b, condition, scale_ohm)
        network = changed(condition, scale_ohm, b)
        network.ohms(prepared(b).between(a, b))
      end

      def contact(a, b)
        @network.elements.find { |element| element.a == a && element.b == b && element.is_a?(Network::Resistor) }
      end

      # The network with the condition in it, and its solution. A sink that would have too little voltage is a resistor
      # instead.
      def driven(condition, ampere, scale_ohm, scale_drive)
        network = changed(condition, scale_ohm)
        strengths = strengths(condition, scale_drive)
        return [network, prepared.driven(strengths)] unless @sink && ampere.positive?

        regulating = prepared.driven(strengths.merge("sink" => ampere))
        return [network, regulating] if network.across(regulating, prepared.between(@sink.a, @sink.b)) >= @sink.min_volt

        [changed(condition, scale_ohm, Network::GROUND, ampere / @sink.min_volt), prepared.driven(strengths)]
      end

      def prepared(reference = Network::GROUND)
        @prepared[reference] ||= Prepared.new(@network, reference: reference)
      end

      def changed(condition, scale_ohm, reference = Network::GROUND, starved = nil)
        kept = (@changed[condition] ||= {})
        kept[[reference, scale_ohm, starved]] ||= begin
          base = prepared(reference)
          changes = changes(base, condition) + scaled(base, scale_ohm, condition)
          changes << [base.between(@sink.a, @sink.b), starved] if starved
          Changed.new(base, changes)
        end
      end

      # A joint apart takes no part.
      def opens?(id)
        @elements[id].respond_to?(:ohm)
      end

      def spans?(bridge)
        @nodes.include?(bridge[0]) && @nodes.include?(bridge[1])
      end

      def changes(base, condition)
        condition.series.filter_map { |id, ohm| [base.current_of(id), -ohm] if opens?(id) } +
          condition.bridges.filter_map { |bridge| [base.between(bridge[0], bridge[1]), 1.0 / bridge[2]] if spans?(bridge) }
      end

      def scaled(base, scale_ohm, condition)
        scale_ohm.filter_map do |id, factor|
          [base.current_of(id), -((@elements[id].ohm + condition.series.fetch(id, 0.0)) * (factor - 1))] if opens?(id)
        end
      end

      def strengths(condition, scale_drive)
        return NOTHING if condition.drives.empty? && scale_drive.empty?

        @sources.each_with_object({}) do |source, strengths|
          factor = condition.drives.fetch(source.id, 1.0) * scale_drive.fetch(source.id, 1.0)
          strengths[source.id] = factor unless factor == 1.0
        end
      end
    end
  end
end
