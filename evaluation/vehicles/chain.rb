# frozen_string_literal: true

module Gadwall
  module Evaluation
    module Vehicles
      # The wiring of one circuit as it lies in the vehicle: wires through connectors, with a splice that no sheet
      # shows. Nodes: "signal/near", "signal/body_connector-" (towards the module), "signal/body_connector+",
      # "signal/far".
      #
      # hurts: faults of the wiring, Hurt. A hurt sits in a wire's section (0 is the first after the first connector),
      # in a connector, or between wires there.
      class Chain
        # kind: "series", "ground", "supply", "together"; at: connector id or section index; wire: id, or two for
        # "together"; ohm; side: "-" or "+", the half of a connector that is wet.
        Hurt = Struct.new(:kind, :at, :wire, :ohm, :side, keyword_init: true)

        attr_reader :wires, :joints, :hurts

        # wires, joints: ids; random: for the day's own resistances; heavy: does it carry amperes?
        def initialize(wires, joints, random, heavy: false)
          @wires = wires
          @joints = joints
          @hurts = []
          @metre = heavy ? 0.003 : 0.04
          @own = Hash.new { |own, key| own[key] = draw(random, key, heavy) }
          each_resistance { |key, _, _| @own[key] }
          @hidden_splice = wires.size > 1 && random.rand < 0.3
        end

        # Puts wires, contacts and what is wrong with them into a net. apart: ids of connectors that are disconnected;
        # hurts: those that are there just now; battery: volt on a wire that touches supply.
        def lay(net, apart:, hurts:, battery:)
          each_resistance do |key, from, upto|
            next if key[0] == :contact && apart.include?(key[2])

            net.resistor(from, upto, @own[key] + hurts.sum { |hurt| series(hurt, key) })
          end
          hurts.each { |hurt| bridge(net, hurt, battery) }
        end

        # Section ids as a sheet names them.
        def sections
          joints.each_cons(2).map { |from, upto| "#{from}_to_#{upto}" }
        end

        private

        # Yields key, node, node of every length of wire and every contact.
        def each_resistance
          wires.each do |wire|
            joints.each_with_index do |joint, i|
              yield [:contact, wire, joint], "#{wire}/#{joint}-", "#{wire}/#{joint}+"
              following = joints[i + 1]
              yield [:section, wire, i], "#{wire}/#{joint}+", "#{wire}/#{following}-" if following
            end
            yield [:end, wire, 0], "#{wire}/near", "#{wire}/#{joints.first}-"
            yield [:end, wire, 1], "#{wire}/#{joints.last}+", "#{wire}/far"
          end
        end

        def draw(random, key, heavy)
          case key[0]
          when :contact
            (heavy ? 0.0008 : 0.004) * Math.exp(random.rand * 2.2)
          when :section
            @metre * (0.6 + (random.rand * 3.0)) * (@hidden_splice ? 1.3 : 1.0)
          else
            0.001
          end
        end

        def series(hurt, key)
          return 0.0 unless hurt.kind == "series" && Array(hurt.wire).include?(key[1])

          kind = hurt.at.is_a?(Integer) ? :section : :contact
          key[0] == kind && key[2] == hurt.at ? hurt.ohm : 0.0
        end

        # In the middle of a section's length; in the half of a connector that is wet.
        def bridge(net, hurt, battery)
          nodes = Array(hurt.wire).map { |wire| node(wire, hurt) }
          case hurt.kind
          when "ground"
            net.resistor(nodes[0], Net::BODY, hurt.ohm)
          when "supply"
            net.source(nodes[0], Net::BODY, battery, hurt.ohm)
          when "together"
            net.resistor(nodes[0], nodes[1], hurt.ohm)
          end
        end

        def node(wire, hurt)
          hurt.at.is_a?(Integer) ? "#{wire}/#{joints[hurt.at]}+" : "#{wire}/#{hurt.at}#{hurt.side || "+"}"
        end
      end
    end
  end
end
