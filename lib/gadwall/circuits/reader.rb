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
        @sink = @network.elements.grep(Network::Sink).first
        @prepared = {}
        @changed = {}.compare_by_identity
      end

      # kind: "volts", "ohms" or "amperes"; probes: two nodes; condition: Condition; ampere: the sink's level, 0 without.
      # scale_ohm and scale_drive: {element id => factor}, to see what a part's tolerance does. Returns a Float in the
      # bare unit. Volts are read through a 10 Mohm meter; amperes with the meter in place of the contact between probes.
      def read(kind, probes, condition, ampere: 0.0, scale_ohm: NOTHING, scale_drive: NOTHING)
        a, b = probes.map { |probe| @line.node(probe) }
        return [changed(condition, scale_ohm, b).ohms(a, b), 0.0].max if kind == "ohms"

        network, drives = driven(condition, ampere * condition.sink, scale_ohm, scale_drive)
        volts = sum(network.gains(a, b), drives)
        kind == "volts" ? volts / (1 + (network.ohms(a, b) * VOLTMETER_SIEMENS)) : volts / contact_ohm(a, b, condition)
      end

      # Ohms behind a pair of probes, sources off: above some megohms a voltmeter shows ghosts.
      def source_ohm(probes, condition)
        a, b = probes.map { |probe| @line.node(probe) }
        changed(condition, NOTHING, Network::GROUND).ohms(a, b)
      end

      NOTHING = {}.freeze

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

      # The network with the condition in it, and the strength of each drive. A sink that would have too little voltage is
      # a resistor instead.
      def driven(condition, ampere, scale_ohm, scale_drive)
        network = changed(condition, scale_ohm, Network::GROUND)
        drives = strengths(condition, scale_ohm, scale_drive)
        return [network, drives] unless @sink && ampere.positive?

        regulating = drives.merge("sink" => ampere)
        return [network, regulating] if sum(network.gains(@sink.a, @sink.b), regulating) >= @sink.min_volt

        starved = Prepared::Change.new(@sink.a, @sink.b, ampere / @sink.min_volt)
        [changed(condition, scale_ohm, Network::GROUND, starved), drives]
      end

      def sum(gains, drives)
        total = 0.0
        gains.each { |id, volts| total += volts * drives.fetch(id, id == "sink" ? 0.0 : 1.0) }
        total
      end

      def changed(condition, scale_ohm, reference, starved = nil)
        kept = (@changed[condition] ||= {})
        kept[[reference, scale_ohm, starved&.siemens]] ||=
          prepared(condition, reference).changed(changes(condition) + scaled(scale_ohm, condition) + [starved].compact)
      end

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

      def scaled(scale_ohm, condition)
        scale_ohm.filter_map do |id, factor|
          element = @elements[id]
          next unless element.respond_to?(:ohm)

          now = element.ohm + condition.series.fetch(id, 0.0)
          Prepared::Change.new(element.a, element.b, (1.0 / (now * factor)) - (1.0 / now))
        end
      end

      # A source behind a resistance is kept as a current; when its resistance changes, so does that current.
      def strengths(condition, scale_ohm, scale_drive)
        @sources.each_with_object({}) do |source, strengths|
          added = condition.series.fetch(source.id, 0.0)
          factor = condition.drives.fetch(source.id, 1.0) * scale_drive.fetch(source.id, 1.0)
          factor *= source.ohm / ((source.ohm + added) * scale_ohm.fetch(source.id, 1.0)) unless added.zero? && scale_ohm.empty?
          strengths[source.id] = factor unless factor == 1.0
        end
      end

      def contact_ohm(a, b, condition)
        contact = @network.elements.find { |element| element.a == a && element.b == b && element.is_a?(Network::Resistor) }
        contact.ohm + condition.series.fetch(contact.id, 0.0)
      end
    end
  end
end
