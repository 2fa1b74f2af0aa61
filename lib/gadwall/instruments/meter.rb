# frozen_string_literal: true

module Gadwall
  module Instruments
    # A hand meter on a simulated vehicle: what its display shows between two probes. Wrong use does what it does in the
    # shop: ohms on a live circuit read nonsense, amperes across a supply blow its fuse, and on a wire that hangs in the
    # air ten megohms show a ghost.
    class Meter
      # text: as displayed; value, unit: the number behind it (INFINITY for over limit); warning: what was wrong with
      # it, or nil; harm: "fuse" where the meter's fuse has just blown, or nil.
      Shown = Struct.new(:text, :value, :unit, :warning, :harm, keyword_init: true)
      UNITS = { "volts" => "V", "ohms" => "ohm", "amperes" => "A" }.freeze
      LEADS_OHM = 0.2 # common practice: meter leads together 0.1 to 0.3 ohm
      FUSE_A = 10.0
      LIVE_V = 0.3 # from so much on, an ohm range reads nonsense
      SHUNT_OHM = 0.05 # common practice: the 10 A range with its leads
      GHOST_OHM = 2.0e6 # common practice: behind more than this a 10 Mohm meter picks up what is near
      GHOST_V = 0.12 # demo

      # vehicle: Simulator::VehicleUnderTest; random: Random for the last digits; noise: relative, one sigma.
      def initialize(vehicle, random: Random.new(1), noise: 0.003)
        @vehicle = vehicle
        @random = random
        @noise = noise
        @blown = false
      end

      # Is the fuse of its ampere range blown?
      def blown?
        @blown
      end

      # Puts a new fuse in.
      def renew_fuse
        @blown = false
      end

      # kind: "volts", "ohms" or "amperes"; probes: two nodes of the circuit; state: Circuits::Harness::State, that of
      # the vehicle where nil; clamped: amperes are read where they flow (in place of a contact), not across two points.
      # The block says which hidden faults count, as of Wiring#sample. Returns Shown.
      def read(kind, circuit_id, probes, state: nil, clamped: true, &counts)
        state ||= @vehicle.state.for_circuit(circuit_id)
        return dead if kind == "amperes" && blown?
        return live(circuit_id, probes, state) if kind == "ohms" && volts(circuit_id, probes, state).abs > LIVE_V
        return across(circuit_id, probes, state) if kind == "amperes" && !clamped

        sample = @vehicle.wiring.sample(kind, circuit_id, probes, state, &counts)
        return blow if kind == "amperes" && sample.value.abs > FUSE_A

        shown(kind, noisy(kind, sample))
      end

      private

      def volts(circuit_id, probes, state)
        @vehicle.wiring.sample("volts", circuit_id, probes, state).value
      end

      def noisy(kind, sample)
        value = sample.value * (1 + (@noise * Quantity::Normal.draw(@random)))
        value += LEADS_OHM if kind == "ohms"
        value += GHOST_V * @random.rand if kind == "volts" && sample.source_ohm > GHOST_OHM
        value
      end

      # The ammeter is a wire of its own between two points: what they can drive flows through it.
      def across(circuit_id, probes, state)
        sample = @vehicle.wiring.sample("volts", circuit_id, probes, state)
        ampere = sample.value / (sample.source_ohm + SHUNT_OHM)
        ampere.abs > FUSE_A ? blow : shown("amperes", ampere * (1 + (@noise * Quantity::Normal.draw(@random))))
      end

      # The ohm range drives its own current against what is there.
      def live(circuit_id, probes, state)
        value = (volts(circuit_id, probes, state).abs * 310) % 900
        shown("ohms", value, warning: "live circuit: an ohm reading means nothing here")
      end

      def dead
        Shown.new(text: "0.00 A", value: 0.0, unit: "A", warning: "the meter's fuse is blown").freeze
      end

      def blow
        @blown = true
        warning = "more than #{FUSE_A.to_i} A: the meter's fuse has blown"
        Shown.new(text: "0.00 A", value: 0.0, unit: "A", warning: warning, harm: "fuse").freeze
      end

      def shown(kind, value, warning: nil)
        unit = UNITS.fetch(kind)
        reading = Quantity::Reading.new(value: @vehicle.system.catalogue.meter(unit).shown(value), unit: unit)
        Shown.new(text: reading.to_s, value: reading.value, unit: unit, warning: warning).freeze
      end
    end
  end
end
