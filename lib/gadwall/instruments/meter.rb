# frozen_string_literal: true

module Gadwall
  module Instruments
    # A hand meter on a simulated vehicle: what its display shows between two probes. Wrong use does what it does in the
    # shop: ohms on a live circuit read nonsense, amperes across a supply blow its fuse.
    class Meter
      # text: as displayed; value, unit: the number behind it (nil for OL); warning: what was wrong with it, or nil.
      Shown = Struct.new(:text, :value, :unit, :warning, keyword_init: true)
      UNITS = { "volts" => "V", "ohms" => "ohm", "amperes" => "A" }.freeze
      LEADS_OHM = 0.2 # common practice: meter leads together 0.1 to 0.3 ohm
      FUSE_A = 10.0
      LIVE_V = 0.3 # from so much on, an ohm range reads nonsense

      # vehicle: Simulation::VehicleUnderTest; random: Random for the last digits; noise: relative, one sigma.
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

      # kind: "volts", "ohms" or "amperes"; probes: two nodes of the circuit. Returns Shown.
      def read(kind, circuit_id, probes)
        if kind == "amperes" && blown?
          return Shown.new(text: "0.00 A", value: 0.0, unit: "A", warning: "the meter's fuse is blown").freeze
        end
        return live(circuit_id, probes) if kind == "ohms" && live?(circuit_id, probes)

        value = @vehicle.wiring.measure(kind, circuit_id, probes, @vehicle.state)
        return blow if kind == "amperes" && value.abs > FUSE_A

        value += LEADS_OHM if kind == "ohms"
        shown(UNITS.fetch(kind), value * (1 + (@noise * Sums::Normal.draw(@random))))
      end

      private

      def live?(circuit_id, probes)
        @vehicle.wiring.measure("volts", circuit_id, probes, @vehicle.state).abs > LIVE_V
      end

      # The ohm range drives its own current against what is there.
      def live(circuit_id, probes)
        volts = @vehicle.wiring.measure("volts", circuit_id, probes, @vehicle.state)
        value = (volts.abs * 310) % 900
        shown("ohm", value).dup.tap { |copy| copy.warning = "live circuit: an ohm reading means nothing here" }.freeze
      end

      def blow
        @blown = true
        Shown.new(
          text: "0.00 A",
          value: 0.0,
          unit: "A",
          warning: "more than #{FUSE_A.to_i} A: the meter's fuse has blown"
        ).freeze
      end

      def shown(unit, value)
        reading = Quantity::Reading.new(value: meter(unit).shown(value), unit: unit)
        Shown.new(text: reading.to_s, value: reading.value, unit: unit).freeze
      end

      def meter(unit)
        @vehicle.system.catalogue.meter(unit)
      end
    end
  end
end
