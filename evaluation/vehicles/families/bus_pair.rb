# frozen_string_literal: true

module Gadwall
  module Evaluation
    module Vehicles
      module Families
        # Two wires through the vehicle, a resistor at both ends, modules between.
        class BusPair < Branch
          MODULES = {
            "gateway" => "gateway_plug",
            "cluster" => "cluster_splice",
            "steering" => "steering_plug",
            "abs" => "abs_plug"
          }.freeze

          private

          def wires
            %w[can_h can_l]
          end

          def default_joints
            %w[gateway_plug cluster_splice steering_plug sill_connector abs_plug]
          end

          def far_place
            "last_terminator"
          end

          def own_lamps
            %w[abs esc]
          end

          def setup
            @stubs = MODULES.keys.to_h { |id| [id, 1.0e5 * (0.4 + random.rand)] }
          end

          def ends(net, state)
            net.resistor("can_h/near", "can_l/near", wrong?("no_first") ? 1.0e9 : 121.0)
            net.resistor("can_h/far", "can_l/far", wrong?("no_last") ? 1.0e9 : 119.5)
            MODULES.each { |id, joint| stub(net, state, id, joint) }
            return unless state[:bus] && !state[:dead]

            # half of the time dominant, so that a meter shows the middle
            net.source("can_h/near", Net::BODY, state[:bus] == :dominant ? 4.2 : 2.9, 25.0)
            net.source("can_l/near", Net::BODY, state[:bus] == :dominant ? 0.8 : 2.1, 25.0)
          end

          def stub(net, state, id, joint)
            return if state[:off] == id

            net.resistor("can_h/#{joint}+", "can_l/#{joint}+", @stubs[id])
            trouble = present.find { |each| each.place == id && each.ohm }
            net.resistor("can_h/#{joint}+", "can_l/#{joint}+", trouble.ohm) if trouble
          end

          def points(name, place, wire)
            case name
            when "bus_ohms"
              ["can_h/#{place}-", "can_l/#{place}-", {}]
            when "bus_ohms_away"
              ["can_h/#{place}+", "can_l/#{place}+", { apart: [place] }]
            when "level_h"
              ["can_h/#{place}-", Net::BODY, { key: true, bus: :busy }]
            when "level_l"
              ["can_l/#{place}-", Net::BODY, { key: true, bus: :busy }]
            when "to_body", "to_body_split"
              ["#{wire}/#{place}+", Net::BODY, { apart: [place] }]
            when "continuity_splice"
              at_splice(place, wire)
            end
          end

          # From a plug that is off to the crimp of the splice beside it.
          def at_splice(place, wire)
            from, upto, state = continuity(place, wire)
            [from, upto, { apart: state[:apart] - ["cluster_splice"] }]
          end

          # Who hears the gateway: enough between the wires where he sits, and neither far off.
          def heard?(id, state = {})
            return false if wrong?("silent", id)

            joint = MODULES.fetch(id)
            solved = net(state.merge(key: true, bus: :dominant)).solve
            high, low = %w[can_h can_l].map { |wire| solved["#{wire}/#{joint}+"] || 0.0 }
            high - low > 0.9 && high < 6.5 && low > -1.0
          end

          def seen(name, place, _wire, outcomes)
            case name
            when "who_answers"
              missing = lost
              return "none" if missing.size >= MODULES.size - 1
              return "some" if missing.any?

              troubles.any? { |each| each.duty < 1.0 && random.rand < 0.6 } ? "dropouts" : "good"
            when "unplug_module"
              heard?((MODULES.keys - [place, "gateway"]).first, { off: place }) ? "good" : "dead"
            when "module_ohms"
              wrong?("pulls", place) ? "low" : "good"
            when "module_supply"
              supplied(place)
            else
              outcomes.first
            end
          end

          def supplied(place)
            return "good" unless wrong?("silent", place)

            random.rand < 0.6 ? "bad" : "silent"
          end

          def contact_ohm
            30.0 * Math.exp(random.rand * 8.0)
          end

          def leak_ohm
            random.rand < 0.8 ? 0.1 * Math.exp(random.rand * 4.0) : 300.0 * Math.exp(random.rand * 2.0)
          end

          def part_troubles
            [
              -> { part(some(%w[cluster steering]), "silent") },
              -> { part(some(%w[cluster steering gateway]), "pulls", ohm: 1.0 + (random.rand * 25)) },
              -> { part("last_terminator", "no_last") }
            ]
          end

          public

          # Modules that nobody hears: ids.
          def lost
            (MODULES.keys - ["gateway"]).reject { |id| heard?(id) }
          end

          # As Branch#claims.
          def claims
            lost.map { |id| ["lost_#{id}", true] }
          end
        end
      end
    end
  end
end
