# frozen_string_literal: true

module Gadwall
  module Evaluation
    module Vehicles
      module Families
        # Battery, fuse, pedal switch, three lamps in the rear.
        class BrakeLights < Branch
          private

          def wires
            %w[feed lamp]
          end

          def default_joints
            %w[fuse_box body_connector switch_plug]
          end

          def far_place
            "switch"
          end

          def own_lamps
            random.rand < 0.5 ? %w[esc] : []
          end

          def heavy?
            true
          end

          def setup
            @lamps = some([2.3, 3.5, 6.0, 40.0]) # bulbs of 21 W, fewer of them, diodes
            @contact = 0.02 + (0.06 * random.rand)
          end

          def ends(net, state)
            net.source("feed/near", Net::BODY, state[:dead] ? 0.0 : day.battery, 0.03)
            net.resistor("lamp/near", Net::BODY, @lamps)
            net.resistor("feed/far", "lamp/far", contact(state))
            net.resistor("feed/switch_plug-", "lamp/switch_plug-", 0.03) if state[:jumper]
          end

          def contact(state)
            return 0.05 if wrong?("stuck_closed")
            return 5.0e8 if wrong?("never") || !state[:pedal]

            @contact + (present.find { |trouble| trouble.state == "worn" }&.ohm || 0.0)
          end

          LAST = { apart: %w[switch_plug] }.freeze

          def points(name, place, wire)
            held = { pedal: true }
            case name
            when "feed_volts"
              ["feed/#{place}-", Net::BODY, held]
            when "lamp_volts"
              ["lamp/#{place}-", Net::BODY, held]
            when "contact_drop"
              ["feed/switch_plug-", "lamp/switch_plug-", held]
            when "switch_ohms"
              ["feed/far", "lamp/far", LAST.merge(held)]
            when "switch_released"
              ["feed/far", "lamp/far", LAST]
            when "insulation"
              ["#{wire}/switch_plug-", Net::BODY, { apart: %w[fuse_box switch_plug] }]
            when "stray_along"
              ["lamp/#{place}-", Net::BODY, { apart: [place] }]
            when "stray_volts"
              ["lamp/switch_plug-", Net::BODY, LAST]
            when "two_traces"
              [nil, nil, {}]
            end
          end

          def lamp_volts(state)
            volts("lamp/near", Net::BODY, state) / day.battery
          end

          def seen(name, _place, _wire, outcomes)
            case name
            when "rear_lamps", "live_held"
              fleeting?(outcomes) ? "dropouts" : brightness(lamp_volts({ pedal: true }), outcomes)
            when "bridge_lamps"
              brightness(lamp_volts(LAST.merge(jumper: true)), outcomes)
            when "lamps_released", "live_released"
              lamp_volts({}) > 0.35 ? outcomes.last : "good"
            when "two_traces"
              traces
            else
              outcomes.first
            end
          end

          def fleeting?(outcomes)
            outcomes.include?("dropouts") &&
              troubles.any? { |each| each.duty < 1.0 && random.rand < each.duty + 0.2 } &&
              lamp_volts({ pedal: true }) > 0.8
          end

          def brightness(share, outcomes)
            return outcomes.include?("none") ? "none" : "dark" if share < 0.35

            share < 0.8 && outcomes.include?("dim") ? "dim" : "good"
          end

          def traces
            feed = volts("feed/switch_plug-", Net::BODY, { pedal: true }) / day.battery
            output = volts("lamp/switch_plug-", Net::BODY, { pedal: true }) / day.battery
            return "both" if feed < 0.8
            return "output" if output < 0.83

            if troubles.any? { |each| each.duty < 1.0 && each.place == "switch" && random.rand < 0.8 }
              "dropouts"
            else
              "good"
            end
          end

          def wiring_troubles
            super + [-> { blown("feed") }]
          end

          def part_troubles
            [
              -> { part("switch", "worn", ohm: 1.5 * Math.exp(random.rand * 3.5), duty: duty(0.4)) },
              -> { part("switch", "worn", ohm: 1.5 * Math.exp(random.rand * 3.5), duty: duty(0.4)) },
              -> { part("switch", "stuck_closed") },
              -> { part("switch", "never") }
            ]
          end

          public

          # As Branch#claims.
          def claims
            return [["stuck_on", false]] if lamp_volts({}) > 0.5

            lamp_volts({ pedal: true }) < 0.62 ? [["implausible", false]] : []
          end
        end
      end
    end
  end
end
