# frozen_string_literal: true

module Gadwall
  module Evaluation
    module Vehicles
      module Families
        # The motor on a caliper and the bridge that drives it both ways.
        class CaliperMotor < Branch
          private

          def wires
            %w[plus minus]
          end

          def default_joints
            %w[module_plug body_connector motor_plug]
          end

          def far_place
            "motor"
          end

          def own_lamps
            %w[park_brake]
          end

          def heavy?
            true
          end

          def setup
            @motor = 0.5 + (0.7 * random.rand)
            @driver = 0.02 + (0.04 * random.rand)
          end

          def ends(net, state)
            drive(net, state)
            net.resistor("plus/motor_plug-", "minus/motor_plug-", 2.6) if state[:bulb]
            trouble = present.find { |each| each.place == "motor" && each.ohm }
            net.resistor("plus/far", "minus/far", trouble ? trouble.ohm : @motor)
          end

          def drive(net, state)
            command = state[:dead] || wrong?("dead") ? nil : state[:command]
            { "plus" => "apply", "minus" => "release" }.each do |wire, word|
              if command == word
                net.source("#{wire}/near", Net::BODY, day.battery, 0.05)
              else
                net.resistor("#{wire}/near", Net::BODY, command ? @driver : 3.0e4)
              end
            end
          end

          LAST = { apart: %w[motor_plug] }.freeze
          ENDS = { apart: %w[module_plug motor_plug] }.freeze

          def points(name, place, wire)
            case name
            when "bulb_volts"
              ["minus/motor_plug-", "plus/motor_plug-", LAST.merge(key: true, command: "release", bulb: true)]
            when "motor_ohms"
              ["plus/#{place}+", "minus/#{place}+", { apart: [place] }]
            when "insulation"
              ["#{wire}/module_plug+", Net::BODY, ENDS]
            when "between"
              ["plus/module_plug+", "minus/module_plug+", ENDS]
            when "bulb_apply", "twin_ohms", "small_battery", "motor_alone"
              [nil, nil, LAST]
            end
          end

          def seen(name, _place, _wire, outcomes)
            case name
            when "bulb_apply"
              lit(volts("plus/motor_plug-", "minus/motor_plug-", LAST.merge(key: true, command: "apply", bulb: true)))
            when "twin_ohms"
              compared(ohms("plus/far", "minus/far", LAST) / @motor)
            when "small_battery", "motor_alone"
              run_alone(name)
            when "spindle_by_hand"
              wrong?("seized") ? "stiff" : "good"
            when "live_clamp"
              clamp
            when "module_volts"
              wrong?("dead") ? "dark" : "good"
            when "calibrate"
              calibrated
            else
              outcomes.first
            end
          end

          def lit(volt)
            share = volt / day.battery
            return "dark" if share < 0.25

            share < 0.8 ? "dim" : "good"
          end

          def compared(ratio)
            return "open" if ratio > 2.0e4
            return "higher" if ratio > 1.7

            ratio < 0.55 ? "lower" : "good"
          end

          def run_alone(name)
            ohm = ohms("plus/far", "minus/far", LAST)
            return "none" if ohm > 6.0
            return "jammed" if ohm < 0.2 || wrong?("jammed") || (wrong?("seized") && name == "small_battery")
            return "free" if wrong?("stripped") && name == "small_battery"

            "good"
          end

          def clamp
            share = volts("plus/far", "minus/far", { key: true, command: "apply" }) / day.battery
            return "none" if share < 0.1 || ohms("plus/far", "minus/far", LAST) > 20
            return "stall" if wrong?("seized") || wrong?("jammed")
            return "free" if wrong?("stripped")
            return "weak" if share < 0.5 || ohms("plus/far", "minus/far", LAST) > 2.5

            troubles.any? { |each| each.duty < 1.0 && random.rand < each.duty + 0.2 } ? "dropouts" : "good"
          end

          def calibrated
            return "learns" if wrong?("lost")

            claims.any? { |claim, _| %w[open stalled no_clamp].include?(claim) } || wrong?("dead") ? "refused" : "good"
          end

          def part_troubles
            [
              -> { part("motor", "open", ohm: 1.0e9, duty: duty(0.2)) },
              -> { part("motor", "open", ohm: 1.0e9) },
              -> { part("motor", "worn", ohm: 4.0 + (20.0 * random.rand)) },
              -> { part("motor", "jammed") },
              -> { part("motor", "stripped") },
              -> { part("caliper", "seized") },
              -> { part("position", "lost") },
              -> { part("bridge", "dead") }
            ]
          end

          public

          # As Branch#claims.
          def claims
            ohm = ohms("plus/near", "minus/near", {})
            return [[random.rand < 0.5 ? "internal" : "open", false]] if wrong?("dead")
            return [["short_to_ground", true]] if ohms("plus/near", Net::BODY, {}) < 800 && leak?
            return [["open", true]] if ohm > 14
            return [["short", true]] if ohm < 0.2
            return [["stalled", false]] if wrong?("seized") || wrong?("jammed")
            return [["no_clamp", false]] if wrong?("stripped")
            return [["not_calibrated", true]] if wrong?("lost")

            ohm > @motor + 1.5 ? [["weak", false]] : []
          end

          private

          def leak?
            present.any? { |each| each.hurt&.kind == "ground" }
          end
        end
      end
    end
  end
end
