# frozen_string_literal: true

module Gadwall
  module Evaluation
    module Vehicles
      module Families
        # A loop of wire in the pad that is worn through.
        class PadLoop < Branch
          private

          def wires
            %w[out return]
          end

          def default_joints
            %w[module_plug body_connector loop_plug]
          end

          def far_place
            "loop"
          end

          def own_lamps
            %w[pad_wear]
          end

          def setup
            @loop = 0.2 + (1.5 * random.rand)
          end

          def ends(net, state)
            if state[:key] && !wrong?("dead")
              net.source("out/near", Net::BODY, day.pull_up, day.pull_up_ohm)
            else
              net.resistor("out/near", Net::BODY, 8.0e4)
            end
            net.resistor("return/near", Net::BODY, 0.5)
            net.resistor("out/far", "return/far", wrong?("worn") || wrong?("broken") ? 1.0e9 : @loop)
            net.resistor("out/loop_plug-", "return/loop_plug-", 0.2) if state[:jumper]
          end

          def points(name, place, _wire)
            case name
            when "loop_ohms"
              ["out/#{place}+", "return/#{place}+", { apart: [place] }]
            when "input_volts"
              ["out/#{place}-", "return/#{place}-", { apart: [place], key: true }]
            when "insulation"
              ["out/module_plug+", Net::BODY, { apart: %w[module_plug loop_plug] }]
            end
          end

          def worn?(state)
            volts("out/near", Net::BODY, state.merge(key: true)) > 0.4 * day.pull_up
          end

          def seen(name, _place, _wire, outcomes)
            case name
            when "bridge_loop"
              worn?({ apart: %w[loop_plug], jumper: true }) ? "stays" : "good"
            when "gauge_pads"
              wrong?("worn") ? "worn" : "good"
            else
              outcomes.first
            end
          end

          def part_troubles
            [
              -> { part("pads", "worn") },
              -> { part("pads", "worn") },
              -> { part("loop", "broken", duty: duty(0.2)) },
              -> { part("loop", "broken") }
            ]
          end

          public

          # As Branch#claims.
          def claims
            worn?({}) ? [["worn", true]] : []
          end
        end
      end
    end
  end
end
