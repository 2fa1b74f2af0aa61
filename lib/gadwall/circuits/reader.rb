# frozen_string_literal: true

module Gadwall
  module Circuits
    # Holds a meter to a harness in one state: what would it show with this condition in the harness?
    # Every reading comes from the solved network; no table of good values stands anywhere.
    class Reader
      VOLTMETER_SIEMENS = 1.0e-7 # 10 Mohm, data/meter.yml

      # value: what the meter shows; source_ohm: ohms behind the probes, sources off (above some megohms a voltmeter
      # shows ghosts). `moved` tells, by the parts of its moves, what it would show with each part off by its tolerance.
      Sample = Struct.new(:value, :source_ohm, :changed, :x, :port)
      # A part moved by its tolerance. drive: does the factor act on what it drives, or on its ohms?
      Move = Struct.new(:id, :factor, :drive)

      # state: Harness::State.
      def initialize(harness, state)
        @harness = harness
        @network = harness.network(state, sink_ampere: harness.sink ? 1.0 : 0.0)
        @elements = @network.elements.to_h { |element| [element.id, element] }
        @nodes = @network.nodes.to_set
        @sources = @network.elements.grep(Network::Source)
        @sink = @network.elements.grep(Network::Sink).first
        @prepared = {}
        @changed = {}.compare_by_identity
      end

      # kind: "volts", "ohms" or "amperes"; probes: two nodes; condition: Condition; ampere: the sink's level, 0
      # without. Returns a Float in the bare unit. Volts are read through a 10 Mohm meter; amperes with the meter in
      # place of the contact between probes.
      def read(kind, probes, condition, ampere: 0.0)
        sample(kind, probes, condition, ampere: ampere).value
      end

      # The same as a Sample.
      def sample(kind, probes, condition, ampere: 0.0)
        a, b = probes.map { |probe| @harness.node(probe) }
        return ohms(prepared(b), prepared(b).between(a, b), condition) if kind == "ohms"

        port = kind == "amperes" ? prepared.current_of(contact(a, b).id) : prepared.between(a, b)
        changed, x = driven(condition, ampere * condition.sink)
        source_ohm = changed.transfer(port, port)
        Sample.new(shown(kind, changed.across(x, port), source_ohm), source_ohm, changed, x, port)
      end

      # The same reading with each of many conditions, those of one change together (Sweep). moves: Array of Move.
      def sweep(kind, probes, conditions, moves, ampere: 0.0, absolute: false)
        a, b = probes.map { |probe| @harness.node(probe) }
        base = kind == "ohms" ? prepared(b) : prepared
        port = kind == "amperes" ? base.current_of(contact(a, b).id) : base.between(a, b)
        changes = conditions.map { |condition| single_change(base, condition) }
        sink_moves, others = moves.partition { |move| @sink && move.id == @sink.id }
        parts = others.map { |move| part(base, move) }
        make =
          lambda do |net, solution, **more|
            Sweep.new(kind, net, port, solution, changes, more.delete(:parts) || parts, absolute: absolute, **more)
          end
        return make.call(Changed.new([]), nil) if kind == "ohms"
        return make.call(Changed.new([]), base.driven({})) unless @sink && ampere.positive?

        off = sink_moves.map { |move| regulated(base, ampere * move.factor, make, parts: []) }.first
        regulated(base, ampere, make, sink_off: off)
      end

      # What a sample would read with one part moved, from one more change of rank one. Parts that the state's network
      # does not hold change nothing; a sink must be read anew.
      def moved(kind, sample, condition, move)
        return driven_more(kind, sample, condition, move) if move.drive

        base = kind == "ohms" ? prepared_of(sample) : prepared
        part = base.current_of(move.id)
        delta = -(@elements[move.id].ohm + condition.series.fetch(move.id, 0.0)) * (move.factor - 1)
        weight = delta / (1 + (delta * sample.changed.transfer(part, part)))
        reach = sample.changed.transfer(sample.port, part)
        source_ohm = sample.source_ohm - (reach * reach * weight)
        return [source_ohm, 0.0].max if kind == "ohms"

        shown(
          kind,
          sample.changed.across(sample.x, sample.port) - (reach * weight * sample.changed.across(sample.x, part)),
          source_ohm
        )
      end

      # Has the element a part in this state: with its resistance, or (drive) with what it drives?
      def plays?(id, drive: false)
        element = @elements[id] or return false

        drive ? !element.is_a?(Network::Resistor) : element.respond_to?(:ohm)
      end

      # Does the condition change nothing that stands in this state's network?
      def untouched_by?(condition)
        @untouched ||= {}.compare_by_identity
        @untouched.fetch(condition) { @untouched[condition] = untouched(condition) }
      end

      private

      def untouched(condition)
        (condition.sink == 1.0 || !@sink) && condition.series.keys.none? { |id| opens?(id) } &&
          condition.bridges.none? { |bridge| spans?(bridge) } &&
          condition.drives.all? { |id, factor| factor == 1.0 || @sources.none? { |source| source.id == id } }
      end

      # The sweep of a network whose sink draws its current, and, where that starves it, of one in which it is a
      # resistor.
      def regulated(base, ampere, make, **more)
        port = base.between(@sink.a, @sink.b)
        starved = make.call(Changed.new([[port, ampere / @sink.min_volt]]), base.driven({}), **more)
        guard = Sweep::Guard.new(port, @sink.min_volt, starved)
        make.call(Changed.new([]), base.driven("sink" => ampere), guard: guard, **more)
      end

      # The condition as one change of this network, or nil where it is none or more than that.
      def single_change(base, condition)
        return unless single?(condition)

        changes = changes(base, condition)
        Sweep::Change.new(*changes[0], condition.series) if changes.size == 1
      end

      def single?(condition)
        @singles ||= {}.compare_by_identity
        @singles.fetch(condition) do
          @singles[condition] = condition.settings.empty? && (condition.sink == 1.0 || !@sink) &&
            strengths(condition).empty?
        end
      end

      def part(base, move)
        if move.drive
          return Sweep::Part.new(move.id, base.source(move.id)[0], nil, move.factor, base.source(move.id)[1])
        end

        Sweep::Part.new(move.id, base.current_of(move.id), @elements[move.id].ohm, move.factor)
      end

      def shown(kind, value, source_ohm)
        kind == "volts" ? value / (1 + (source_ohm * VOLTMETER_SIEMENS)) : value
      end

      def ohms(base, port, condition)
        changed = changed(base, condition)
        ohm = [changed.transfer(port, port), 0.0].max
        Sample.new(ohm, ohm, changed, base, port)
      end

      # A sample of ohms carries the network it was read in where others carry the solution.
      def prepared_of(sample)
        sample.x
      end

      def driven_more(kind, sample, condition, move)
        port, volt = prepared.source(move.id)
        more =
          (move.factor - 1) * condition.drives.fetch(move.id, 1.0) * volt * sample.changed.transfer(sample.port, port)
        shown(kind, sample.changed.across(sample.x, sample.port) + more, sample.source_ohm)
      end

      def contact(a, b)
        @network.elements.find { |element| element.a == a && element.b == b && element.is_a?(Network::Resistor) }
      end

      # The network with the condition in it, and the solution without. A sink that would have too little voltage is a
      # resistor instead.
      def driven(condition, ampere)
        network = changed(prepared, condition)
        strengths = strengths(condition)
        return network, prepared.driven(strengths) unless @sink && ampere.positive?

        regulating = prepared.driven(strengths.merge("sink" => ampere))
        return network, regulating if network.across(regulating, prepared.between(@sink.a, @sink.b)) >= @sink.min_volt

        [changed(prepared, condition, ampere / @sink.min_volt), prepared.driven(strengths)]
      end

      def prepared(reference = Network::GROUND)
        @prepared[reference] ||= Prepared.new(@network, reference: reference)
      end

      def changed(base, condition, starved = nil)
        kept = ((@changed[base] ||= {}.compare_by_identity)[condition] ||= {})
        kept[starved] ||= begin
          changes = changes(base, condition)
          changes << [base.between(@sink.a, @sink.b), starved] if starved
          Changed.new(changes)
        end
      end

      # A connector apart takes no part.
      def opens?(id)
        @elements[id].respond_to?(:ohm)
      end

      def spans?(bridge)
        @nodes.include?(bridge[0]) && @nodes.include?(bridge[1])
      end

      def changes(base, condition)
        condition.series.filter_map { |id, ohm| [base.current_of(id), -ohm] if opens?(id) } +
          condition.bridges.filter_map do |bridge|
            [base.between(bridge[0], bridge[1]), 1.0 / bridge[2]] if spans?(bridge)
          end
      end

      def strengths(condition)
        return {} if condition.drives.empty?

        condition.drives.select { |id, factor| factor != 1.0 && @sources.any? { |source| source.id == id } }
      end
    end
  end
end
