# frozen_string_literal: true

module Gadwall
  module Circuits
    # One reading taken with each of many faults in turn, where a fault is one change of the network: one resistance
    # more, or one bridge. The algebra is that of Changed (Sherman and Morrison 1950, rank one; from memory), with all
    # that the faults share computed once:
    #
    #   w = d / (1 + d Tcc);  volts = xp - Tcp w xc;  ohms behind the probes = Tpp - Tcp w Tcp
    #
    # p: the probes' port; c, d: port and size of the change; T: transfer between two ports; x: the driven solution.
    # A part off by its tolerance is one more change of the same kind on top. Bare loops: every table of the diagnosis
    # comes through here.
    class Sweep
      # One change: its port, its size, and the ohms that it adds to a part, {element id => ohm}.
      Change = Struct.new(:port, :size, :series)
      # A part off by its tolerance: its ohms and the factor on them, or the volts that it drives and the factor on
      # these, or (a sink) the whole solution with it off.
      Part = Struct.new(:id, :port, :ohm, :factor, :volt, :solution)
      # The sink of the network: its port and the volts below which it no longer regulates.
      Guard = Struct.new(:port, :least)

      # kind: "volts", "ohms" or "amperes"; port: of the probes; solution: of the network with its sources on (ohms:
      # not used); changes: Array of Change, nil where a fault is no single change; parts: Array of Part; guard: Guard
      # or nil; absolute: is the sign not shown?
      def initialize(kind, port, solution, changes, parts, guard: nil, absolute: false)
        @kind = kind
        @port = port
        @solution = kind == "ohms" ? nil : solution
        @changes = changes
        @parts = parts
        @guard = guard
        @absolute = absolute
        @of_port = {}.compare_by_identity
        @source_ohm = port.transfer(port)
        @shown = @solution && port.of(@solution)
        prepare_parts
      end

      # The reading with fault i: a Reading, or nil where it needs Reader#sample: where it is no single change, or
      # starves the sink.
      def reading(i)
        change = @changes[i] or return
        known = of(change.port)
        weight = change.size / (1.0 + (change.size * known.own))
        return if @guard && @solution && !regulates?(known, weight)

        ohm = @source_ohm - (known.reach * weight * known.reach)
        plain = @solution ? @shown - (known.reach * weight * known.seen) : 0.0
        Reading.new(shown(plain, ohm), ohm, change, known, weight, plain)
      end

      # value: what the meter shows, in the bare unit; source_ohm: ohms behind the probes, sources off.
      Reading = Struct.new(:value, :source_ohm, :change, :known, :weight, :plain)

      # Variance of a reading from the tolerance of the parts: each moved by its own sigma.
      def variance(reading)
        sum = 0.0
        n = -1
        sum += (moved(@parts[n], n, reading) - reading.value)**2 while (n += 1) < @parts.size
        sum
      end

      private

      # own: Tcc; reach: Tcp; seen: what the solution shows at c, and each solution with the sink off; couplings: Tcm
      # for each part m; sink: T between the sink and c.
      Known = Struct.new(:own, :reach, :seen, :seen_off, :couplings, :sink)

      def of(port)
        @of_port[port] ||= Known.new(
          port.transfer(port),
          port.transfer(@port),
          @solution && port.of(@solution),
          @parts.map { |part| part.solution && port.of(part.solution) },
          @parts.map { |part| part.solution ? 0.0 : port.transfer(part.port) },
          @guard && @guard.port.transfer(port)
        )
      end

      def shown(volts, ohm)
        case @kind
        when "ohms"
          ohm.negative? ? 0.0 : ohm
        when "volts"
          loaded = volts / (1 + (ohm * Reader::VOLTMETER_SIEMENS))
          @absolute ? loaded.abs : loaded
        else
          @absolute ? volts.abs : volts
        end
      end

      # What the meter shows with part n off as well.
      def moved(part, n, reading)
        known = reading.known
        return shown(@off[n] - (known.reach * reading.weight * known.seen_off[n]), reading.source_ohm) if part.solution

        coupling = known.couplings[n]
        seen = @reaches[n] - (known.reach * reading.weight * coupling)
        if part.volt
          return shown(reading.plain + ((part.factor - 1) * part.volt * seen), reading.source_ohm)
        end

        delta = -(part.ohm + (reading.change.series[part.id] || 0.0)) * (part.factor - 1)
        v = delta / (1 + (delta * (@owns[n] - (coupling * reading.weight * coupling))))
        behind = reading.source_ohm - (seen * v * seen)
        return shown(0.0, behind) unless @solution

        current = @currents[n] - (coupling * reading.weight * known.seen)
        shown(reading.plain - (seen * v * current), behind)
      end

      # Of each part: transfer to the probes, to itself, what the solution shows at it; or (sink) at the probes with it
      # off.
      def prepare_parts
        @reaches = @parts.map { |part| part.solution ? 0.0 : part.port.transfer(@port) }
        @owns = @parts.map { |part| part.solution ? 0.0 : part.port.transfer(part.port) }
        @currents = @parts.map { |part| part.solution || @solution.nil? ? 0.0 : part.port.of(@solution) }
        @off = @parts.map { |part| part.solution && @port.of(part.solution) }
      end

      # Has the sink the voltage that it needs: with everything as it is, and with itself off by its tolerance?
      def regulates?(known, weight)
        drop = known.sink * weight
        return false if @guard.port.of(@solution) - (drop * known.seen) < @guard.least

        @parts.each_with_index.all? do |part, n|
          part.solution.nil? || @guard.port.of(part.solution) - (drop * known.seen_off[n]) >= @guard.least
        end
      end
    end
  end
end
