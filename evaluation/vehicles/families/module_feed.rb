# frozen_string_literal: true

module Gadwall
  module Evaluation
    module Vehicles
      module Families
        # Feed and ground of the anti-lock module, and the module itself.
        class ModuleFeed < Branch
          private

          def wires
            %w[feed ground_wire valve_feed]
          end

          def default_joints
            %w[fuse_box supply_plug]
          end

          def far_place
            "module"
          end

          def own_lamps
            %w[abs esc red_brake]
          end

          def heavy?
            true
          end

          def setup
            @draw = 8.0 + (20.0 * random.rand)
            @valves = 80.0 + (200.0 * random.rand)
          end

          def ends(net, state)
            battery = state[:dead] ? 0.0 : day.battery
            net.source("feed/near", Net::BODY, battery, 0.02)
            net.source("valve_feed/near", Net::BODY, battery, 0.02)
            net.resistor("ground_wire/near", Net::BODY, 0.003)
            net.resistor("feed/far", "ground_wire/far", @draw)
            net.resistor("valve_feed/far", "ground_wire/far", @valves)
            net.resistor("feed/supply_plug-", "ground_wire/supply_plug-", 2.6) if state[:bulb]
            net.resistor("valve_feed/supply_plug-", "ground_wire/supply_plug-", 2.6) if state[:valve_bulb]
          end

          LAST = { apart: %w[supply_plug], key: true }.freeze

          def points(name, _place, wire)
            case name
            when "loaded_supply"
              ["feed/supply_plug-", "ground_wire/supply_plug-", LAST.merge(bulb: true)]
            when "ground_drop"
              ["ground_wire/supply_plug-", Net::BODY, LAST.merge(bulb: true)]
            when "loaded_valves"
              ["valve_feed/supply_plug-", "ground_wire/supply_plug-", LAST.merge(valve_bulb: true)]
            when "feed_insulation"
              ["feed/fuse_box+", Net::BODY, { apart: %w[fuse_box supply_plug] }]
            when "feed_at_fuse"
              ["#{wire}/fuse_box+", Net::BODY, LAST.merge(bulb: true, valve_bulb: true)]
            when "fuse_drop"
              ["#{wire}/fuse_box-", "#{wire}/fuse_box+", LAST.merge(bulb: true, valve_bulb: true)]
            when "battery_volts"
              ["feed/near", Net::BODY, { key: true }]
            when "open_module", "warm_and_knock"
              [nil, nil, LAST]
            end
          end

          def seen(name, _place, _wire, outcomes)
            state = troubles.find { |each| each.place == "module" }&.state
            case name
            when "internal_returns"
              state && state != "silent" && random.rand < 0.85 ? "returns" : "good"
            when "warm_and_knock"
              state == "cracked" && random.rand < 0.85 ? "comes" : "good"
            when "open_module"
              opened(state, outcomes)
            when "draws_current"
              powered? ? "good" : "none"
            when "read_coding"
              wrong?("uncoded") ? "wrong" : "good"
            else
              outcomes.first
            end
          end

          def opened(state, outcomes)
            shown = { "burnt" => "burnt", "water" => "wet", "cracked" => "cracked", "silent" => "burnt" }[state]
            shown && outcomes.include?(shown) && random.rand < 0.7 ? shown : "good"
          end

          def wiring_troubles
            super + Array.new(2) { -> { blown(some(%w[feed feed valve_feed])) } }
          end

          def part_troubles
            [
              -> { part("module", "burnt") },
              -> { part("module", "silent") },
              -> { part("module", "water") },
              -> { part("module", "cracked", duty: 0.5) },
              -> { part("coding", "uncoded") }
            ]
          end

          public

          # Does the module run?
          def powered?
            !wrong?("silent") && volts("feed/far", "ground_wire/far", { key: true }) > 7.0
          end

          # As Branch#claims.
          def claims
            return [] unless powered?
            return [["supply_low", true]] if volts("feed/far", "ground_wire/far", { key: true }) < 0.85 * day.battery
            if volts("valve_feed/far", "ground_wire/far", { key: true }) < 0.6 * day.battery
              return [["valve_supply", true]]
            end
            return [["not_coded", true]] if wrong?("uncoded")

            present.any? { |each| each.place == "module" && each.state != "silent" } ? [["internal", true]] : []
          end

          # As Branch#warns?
          def warns?
            lamps.any?
          end

          # As Branch#lamps: a module that is dead lights its lamps by keeping silent.
          def lamps
            powered? && claims.empty? ? [] : own_lamps
          end
        end
      end
    end
  end
end
