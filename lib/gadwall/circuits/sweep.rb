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
      # A part off by its tolerance: its port, and its ohms with the factor on them, or the volts that it drives with
      # the factor on these.
      Part = Struct.new(:id, :port, :ohm, :factor, :volt)
      # The sink of the network: its port, the volts below which it no longer regulates, and the Sweep of the network
      # in which it does not.
      Guard = Struct.new(:port, :least, :starved)
      # value: what the meter shows, in the bare unit; source_ohm: ohms behind the probes, sources off; plain: what an
      # ideal meter would show; sweep: the one that read it.
      Reading = Struct.new(:value, :source_ohm, :change, :known, :weight, :plain, :sweep, :index)

      # kind: "volts", "ohms" or "amperes"; net: Changed, the network without a fault; port: of the probes; solution: of
      # the network with its sources on (ohms: nil); changes: Array of Change, nil where a fault is no single change;
      # parts: Array of Part; sink_off: the Sweep with the sink off by its tolerance, or nil; guard: Guard or nil;
      # absolute: is the sign not shown?
      def initialize(kind, net, port, solution, changes, parts, sink_off: nil, guard: nil, absolute: false)
        @kind = kind
        @net = net
        @port = port
        @solution = solution
        @changes = changes
        @parts = parts
        @sink_off = sink_off
        @guard = guard
        @absolute = absolute
        @of_port = {}.compare_by_identity
        prepare
      end

      # The reading with fault i: a Reading, or nil where it is no single change and needs Reader#sample.
      def reading(i)
        change = @changes[i] or return
        known = of(change.port)
        weight = change.size / (1.0 + (change.size * known.own))
        return @guard.starved.reading(i) if @guard && starves?(known, weight)

        ohm = @source_ohm - (known.reach * weight * known.reach)
        plain = @solution ? @shown - (known.reach * weight * known.seen) : 0.0
        Reading.new(shown(plain, ohm), ohm, change, known, weight, plain, self, i)
      end

      # Variance of a reading from the tolerance of the parts: each moved by its own sigma.
      def variance(reading)
        return reading.sweep.variance(reading) unless reading.sweep.equal?(self)

        sum = @sink_off ? (@sink_off.reading(reading.index).value - reading.value)**2 : 0.0
        n = -1
        sum += (moved(@parts[n], n, reading) - reading.value)**2 while (n += 1) < @parts.size
        sum
      end

      private

      # own: Tcc; reach: Tcp; seen: what the solution shows at c; couplings: Tcm for each part m; sink: T between the
      # sink and c.
      Known = Struct.new(:own, :reach, :seen, :couplings, :sink)

      def of(port)
        @of_port[port] ||= Known.new(
          @net.transfer(port, port),
          @net.transfer(port, @port),
          @solution && @net.across(@solution, port),
          @parts.map { |part| @net.transfer(port, part.port) },
          @guard && @net.transfer(@guard.port, port)
        )
      end

      # What is the same for every fault.
      def prepare
        @source_ohm = @net.transfer(@port, @port)
        @shown = @solution && @net.across(@solution, @port)
        @reaches = @parts.map { |part| @net.transfer(part.port, @port) }
        @owns = @parts.map { |part| @net.transfer(part.port, part.port) }
        @currents = @parts.map { |part| @solution ? @net.across(@solution, part.port) : 0.0 }
        @sink_volt = @guard && @net.across(@solution, @guard.port)
      end

      # Has the sink too little voltage to regulate?
      def starves?(known, weight)
        @sink_volt - (known.sink * weight * known.seen) < @guard.least
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
        coupling = known.couplings[n]
        seen = @reaches[n] - (known.reach * reading.weight * coupling)
        return shown(reading.plain + ((part.factor - 1) * part.volt * seen), reading.source_ohm) if part.volt

        delta = -(part.ohm + (reading.change.series[part.id] || 0.0)) * (part.factor - 1)
        v = delta / (1 + (delta * (@owns[n] - (coupling * reading.weight * coupling))))
        behind = reading.source_ohm - (seen * v * seen)
        return shown(0.0, behind) unless @solution

        current = @currents[n] - (coupling * reading.weight * known.seen)
        shown(reading.plain - (seen * v * current), behind)
      end
    end
  end
end
