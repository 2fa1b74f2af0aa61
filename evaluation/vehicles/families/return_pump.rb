# frozen_string_literal: true

module Gadwall
  module Evaluation
    module Vehicles
      module Families
        # The pump motor with its relay and heavy feed.
        class ReturnPump < Branch
          private

          def wires
            %w[feed ground_wire]
          end

          def default_joints
            %w[fuse_box relay_socket pump_plug]
          end

          # The ground goes its own way, past the relay.
          def wires_in(place)
            place.include?("relay_socket") && !place.end_with?("pump_plug") ? ["feed"] : wires
          end

          def far_place
            "pump"
          end

          def own_lamps
            %w[abs esc]
          end

          def heavy?
            true
          end

          def setup
            @running = 0.5 + (0.8 * random.rand)
            @still = 0.15 + (0.35 * random.rand)
            @relay = 0.004 + (0.02 * random.rand)
          end

          def ends(net, state)
            net.source("feed/near", Net::BODY, state[:dead] ? 0.0 : day.battery, 0.02)
            net.resistor("ground_wire/near", Net::BODY, 0.002)
            sound = state[:run] && !state[:dead] ? @running : @still
            trouble = present.find { |each| each.place == "pump" && each.ohm }
            net.resistor("feed/far", "ground_wire/far", trouble ? trouble.ohm : sound)
            net.resistor("feed/pump_plug-", "ground_wire/pump_plug-", 2.6) if state[:bulb]
          end

          # The relay sits in the feed at its socket.
          def net(state, dead: false)
            closed = wrong?("welded") || (state[:run] && !wrong?("never_pulls") && !wrong?("dead"))
            return super if state.fetch(:apart, []).include?("relay_socket")

            apart = state.fetch(:apart, []) + ["relay_socket"]
            super(state.merge(apart: apart), dead: dead).tap do |net|
              socket = chain.wires.to_h { |wire| [wire, ["#{wire}/relay_socket-", "#{wire}/relay_socket+"]] }
              series = present.filter_map(&:hurt).select { |hurt| hurt.kind == "series" && hurt.at == "relay_socket" }
              ohm = @relay + series.sum { |hurt| Array(hurt.wire).include?("feed") ? hurt.ohm : 0 }
              ohm += present.find { |each| each.state == "burnt" }&.ohm || 0.0
              ground = 0.003 + series.sum { |hurt| Array(hurt.wire).include?("ground_wire") ? hurt.ohm : 0 }
              net.resistor(*socket["feed"], closed ? ohm : 1.0e9)
              net.resistor(*socket["ground_wire"], ground)
            end
          end

          LAST = { apart: %w[pump_plug] }.freeze

          def points(name, place, _wire)
            running = { key: true, run: true }
            case name
            when "bulb_pump"
              ["feed/pump_plug-", "ground_wire/pump_plug-", LAST.merge(running).merge(bulb: true)]
            when "feed_running"
              ["feed/#{place}-", Net::BODY, running]
            when "ground_running"
              ["ground_wire/pump_plug-", Net::BODY, running]
            when "ground_bulb"
              ["ground_wire/pump_plug-", Net::BODY, LAST.merge(running).merge(bulb: true)]
            when "feed_insulation"
              ["feed/relay_socket+", Net::BODY, { apart: %w[relay_socket pump_plug] }]
            when "pump_ohms"
              ["feed/far", "ground_wire/far", LAST]
            when "direct_feed"
              [nil, nil, LAST]
            end
          end

          def share
            volts("feed/far", "ground_wire/far", { key: true, run: true }) / day.battery
          end

          def seen(name, _place, _wire, outcomes)
            case name
            when "run_pump"
              ran
            when "relay_swap"
              dead_motor? || wrong?("dead") || (share < 0.7 && !relay_at_fault?) ? "still" : "good"
            when "coil_drive"
              wrong?("dead") ? "dark" : "good"
            when "direct_feed"
              return "dead" if dead_motor?

              wrong?("worn") ? "slow" : "good"
            else
              outcomes.first
            end
          end

          def own_sight(name, outcomes)
            return outcomes.first unless name == "look_relay"

            relay_at_fault? && wrong?("burnt") && random.rand < 0.6 ? "burnt" : outcomes.first
          end

          def relay_at_fault?
            wrong?("never_pulls") || wrong?("burnt")
          end

          def dead_motor?
            wrong?("open") || wrong?("jammed")
          end

          def ran
            return "runs_on" if wrong?("welded")
            return "silent" if wrong?("dead") || wrong?("never_pulls")
            return "clicks" if dead_motor? || share < 0.35
            return "slow" if share < 0.77 || wrong?("worn")

            troubles.any? { |each| each.duty < 1.0 && random.rand < each.duty } ? "dropouts" : "good"
          end

          def wiring_troubles
            super + [-> { blown("feed") }]
          end

          def part_troubles
            [
              -> { part("pump", "open", ohm: 1.0e9) },
              -> { part("pump", "open", ohm: 1.0e9, duty: duty(0.5)) },
              -> { part("pump", "jammed") },
              -> { part("pump", "worn", ohm: nil) },
              -> { part("relay", "burnt", ohm: 0.5 * Math.exp(random.rand * 4)) },
              -> { part("relay", "never_pulls") },
              -> { part("relay", "welded") },
              -> { part("driver", "dead") }
            ]
          end

          public

          # As Branch#claims.
          def claims
            return [["stuck_on", true]] if wrong?("welded")
            return [["no_operation", false]] if dead_motor? || wrong?("dead") || share < 0.62

            wrong?("worn") ? [["weak", false]] : []
          end
        end
      end
    end
  end
end
