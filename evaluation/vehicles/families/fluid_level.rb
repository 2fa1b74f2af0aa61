# frozen_string_literal: true

module Gadwall
  module Evaluation
    module Vehicles
      module Families
        # A float switch that closes when the level is low.
        class FluidLevel < Branch
          private

          def wires
            %w[signal return]
          end

          def default_joints
            %w[module_plug body_connector reservoir_plug]
          end

          def far_place
            "float_switch"
          end

          def own_lamps
            %w[red_brake level_low]
          end

          def setup
            @contact = 0.1 + (2.0 * random.rand)
          end

          def ends(net, state)
            if state[:key] && !wrong?("dead")
              net.source("signal/near", Net::BODY, day.pull_up, day.pull_up_ohm)
            else
              net.resistor("signal/near", Net::BODY, 5.0e4)
            end
            net.resistor("return/near", Net::BODY, 0.03)
            closed = (wrong?("low") || state[:down] || wrong?("stuck_low")) && !wrong?("never")
            net.resistor("signal/far", "return/far", closed ? @contact : 5.0e8)
            net.resistor("signal/reservoir_plug-", "return/reservoir_plug-", 0.2) if state[:jumper]
          end

          LAST = { apart: %w[reservoir_plug] }.freeze

          def points(name, place, _wire)
            case name
            when "float_ohms"
              ["signal/far", "return/far", LAST]
            when "float_down"
              ["signal/far", "return/far", LAST.merge(down: true)]
            when "signal_volts"
              ["signal/#{place}-", Net::BODY, { key: true }]
            when "signal_volts_off"
              ["signal/#{place}-", Net::BODY, LAST.merge(key: true)]
            when "open_volts"
              ["signal/#{place}-", Net::BODY, { apart: [place], key: true }]
            when "short_together"
              ["signal/#{place}+", "return/#{place}+", { apart: [place, "reservoir_plug"] }]
            when "insulation"
              ["signal/#{place}+", Net::BODY, { apart: [place, "reservoir_plug"] }]
            when "ground_ohms"
              ["return/#{place}-", Net::BODY, { apart: [place] }]
            end
          end

          def low?(state)
            volts("signal/near", Net::BODY, state.merge(key: true)) < 0.4 * day.pull_up
          end

          def seen(name, _place, _wire, outcomes)
            case name
            when "unplug_lamp"
              low?(LAST) ? "stays" : "good"
            when "bridge_lamp"
              low?(LAST.merge(jumper: true)) ? "good" : "nothing"
            else
              outcomes.first
            end
          end

          def own_sight(name, outcomes)
            name == "look_level" && wrong?("low") ? "low" : outcomes.first
          end

          def part_troubles
            [
              -> { part("fluid", "low") },
              -> { part("fluid", "low") },
              -> { part("float_switch", "stuck_low", duty: duty(0.2)) },
              -> { part("float_switch", "stuck_low") }
            ]
          end

          public

          # As Branch#claims.
          def claims
            low?({}) ? [["level_low", true]] : []
          end
        end
      end
    end
  end
end
