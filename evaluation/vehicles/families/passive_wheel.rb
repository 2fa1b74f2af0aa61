# frozen_string_literal: true

module Gadwall
  module Evaluation
    module Vehicles
      module Families
        # A coil that makes its own voltage; the module lays a bias on it to see whether it is there.
        class PassiveWheel < Wheel
          private

          def wires
            %w[signal return]
          end

          def setup
            @coil = day.coil * (0.94 + (0.12 * random.rand))
            @input = 500.0 * Math.exp(random.rand * 1.6)
            @asleep = 2.0e4 * Math.exp(random.rand * 3.0)
            @swing = 0.15 + (0.3 * random.rand)
            @healthy = volts_near
            @healthy_signal = volts("signal/near", Net::BODY, { key: true })
            @healthy_swing = swing("signal/near", "return/near", {})
          end

          def volts_near
            volts("signal/near", "return/near", { key: true })
          end

          def ends(net, state)
            dead = wrong?("dead") || state[:dead]
            if state[:key] && !dead
              net.source("signal/near", Net::BODY, day.bias, day.bias_ohm)
            else
              net.resistor("signal/near", Net::BODY, @asleep)
            end
            net.resistor("return/near", Net::BODY, @input)
            coil(net, state)
          end

          def coil(net, state)
            ohm = present.find { |each| each.place == "sensor" && each.ohm && each.state != "weak" }&.ohm || @coil
            if state[:spin] && !state[:dead]
              emf = wrong?("missing") || wrong?("open") ? 0.0 : @swing * amplitude
              emf *= 0.1 if wrong?("shorted")
              net.source("signal/far", "return/far", emf, ohm)
            else
              net.resistor("signal/far", "return/far", ohm)
            end
          end

          def points(name, place, _wire)
            here = { apart: [place] }
            case name
            when "resistance"
              ["signal/#{place}+", "return/#{place}+", here]
            when "insulation"
              ["signal/#{place}+", Net::BODY, here]
            when "short_together"
              ["signal/#{place}+", "return/#{place}+", { apart: [place, "sensor_plug"] }]
            when "bias"
              ["signal/#{place}-", "return/#{place}-", here.merge(key: true)]
            when "stray_volts"
              ["signal/#{place}+", Net::BODY, here.merge(key: true)]
            when "ac_volts"
              ["signal/#{place}+", "return/#{place}+", here.merge(spin: true)]
            when "scope"
              [nil, nil, here]
            end
          end

          def measured(name, place, wire, unit)
            return super unless name == "ac_volts"

            metered(swing("signal/#{place}+", "return/#{place}+", { apart: [place] }).abs, "V").abs
          end

          # What the turning wheel makes between two nodes, the bias on it or not.
          def swing(from, upto, state)
            still = state.merge(key: true)
            volts(from, upto, still.merge(spin: true)) - volts(from, upto, still)
          end

          def wiring_strength
            (swing("signal/near", "return/near", {}) / amplitude / @healthy_swing).abs
          end

          def at_pins(place)
            share = swing("signal/#{place}+", "return/#{place}+", { apart: [place] }).abs / amplitude / @swing
            category(share)
          end

          public

          # As Branch#claims.
          def claims
            return [["no_signal", false]] if wrong?("dead")

            now = volts_near
            signal = volts("signal/near", Net::BODY, { key: true })
            return [["open", true]] if now > @healthy + (0.45 * (day.bias - @healthy))
            return [["short_to_ground", true]] if signal < 0.3 * @healthy_signal
            return [["short", true]] if now < 0.2 * @healthy
            return [["short_to_supply", true]] if signal > day.bias * 1.1

            signal_claims(category(wiring_strength))
          end

          private

          def part_troubles
            ring_troubles +
              [
                -> { part("sensor", "open", ohm: some([1.0e9, 1.0e9, 4.0e4]), duty: duty(0.15)) },
                -> { part("sensor", "open", ohm: 1.0e9) },
                -> { part("sensor", "shorted", ohm: 3.0 * Math.exp(random.rand * 4.0)) },
                -> { part("sensor", "weak", ohm: 0.15 + (random.rand * 0.25)) },
                -> { part("module_input", "dead") }
              ]
          end
        end
      end
    end
  end
end
