# frozen_string_literal: true

module Gadwall
  module Evaluation
    module Vehicles
      module Families
        # A pressure sensor on three wires, five volts.
        class Pressure < Branch
          private

          def wires
            %w[feed signal return]
          end

          def default_joints
            %w[module_plug engine_connector sensor_plug]
          end

          def far_place
            "sensor"
          end

          def own_lamps
            %w[esc]
          end

          def setup
            @input = 4.7e4 * Math.exp(random.rand * 2.5)
            @lower = 350.0 + (500.0 * random.rand)
          end

          def ends(net, state)
            key = state[:key] && !wrong?("dead")
            key ? net.source("feed/near", Net::BODY, day.five, 4.0) : net.resistor("feed/near", Net::BODY, 1.5e4)
            net.resistor("return/near", Net::BODY, 0.05)
            net.resistor("signal/near", Net::BODY, @input)
            sensor(net, state)
          end

          def sensor(net, state)
            return net.resistor("feed/far", "return/far", 1.0e9) if wrong?("open")

            share = 0.1 + (wrong?("drift") ? 0.15 : 0.0) + (state[:pedal] && !wrong?("stuck") ? 0.18 : 0.0)
            net.resistor("signal/far", "return/far", @lower)
            net.resistor("feed/far", "signal/far", @lower * (1 - share) / share)
          end

          def points(name, place, wire)
            both = { apart: %w[module_plug sensor_plug] }
            case name
            when "signal_volts"
              ["signal/#{place}-", "return/#{place}-", { key: true }]
            when "signal_pressed"
              ["signal/sensor_plug-", "return/sensor_plug-", { key: true, pedal: true }]
            when "feed_volts"
              ["feed/#{place}-", "return/#{place}-", { apart: [place], key: true }]
            when "insulation"
              ["#{wire}/module_plug+", Net::BODY, both]
            when "stray_volts"
              ["#{wire}/module_plug+", Net::BODY, both.merge(key: true)]
            when "known_sensor"
              [nil, nil, { apart: %w[sensor_plug] }]
            end
          end

          def signal(state = {})
            volts("signal/near", Net::BODY, state.merge(key: true))
          end

          def seen(name, _place, _wire, outcomes)
            case name
            when "live_rest"
              rest
            when "live_pressed"
              pressed
            when "known_sensor"
              known
            when "zero"
              return "learns" if wrong?("uncalibrated")

              signal.between?(0.25, 0.66) ? "good" : "refused"
            else
              outcomes.first
            end
          end

          def rest
            volt = signal
            return "invalid" unless volt.between?(0.25, 4.7)
            return "offset" if volt > 0.66 || wrong?("uncalibrated")

            troubles.any? { |each| each.duty < 1.0 && random.rand < each.duty + 0.2 } ? "dropouts" : "good"
          end

          def pressed
            volt = signal({ pedal: true })
            return "invalid" unless volt.between?(0.25, 4.7)

            volt < 0.8 ? "flat" : "good"
          end

          # A known sensor in its place.
          def known
            own = troubles.select { |each| each.place == "sensor" }
            @here.merge!(own.to_h { |each| [each, false] })
            volt = signal
            @here.merge!(own.to_h { |each| [each, true] })
            volt.between?(0.25, 0.7) ? "good" : "wrong"
          end

          def part_troubles
            [
              -> { part("sensor", "open") },
              -> { part("sensor", "drift") },
              -> { part("sensor", "stuck") },
              -> { part("zero", "uncalibrated") },
              -> { part("pressure_input", "dead") }
            ]
          end

          public

          # As Branch#claims.
          def claims
            volt = signal
            return [["below_range", true]] if volt < 0.25
            return [["above_range", true]] if volt > 4.7
            return [["not_calibrated", true]] if wrong?("uncalibrated")

            volt > 0.72 || signal({ pedal: true }) < 0.8 ? [["implausible", false]] : []
          end
        end
      end
    end
  end
end
