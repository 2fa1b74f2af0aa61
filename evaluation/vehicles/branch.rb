# frozen_string_literal: true

module Gadwall
  module Evaluation
    module Vehicles
      # One circuit of a foreign vehicle: its wiring, what stands at both ends, and what a technician reads who does a
      # test of that name. A family says what stands at the ends and what is seen; this class reads meters and looks.
      class Branch
        include WiringTroubles

        # One thing that is wrong. place: as a sheet names it; hurt: Chain::Hurt, or nil; state: a word for what is
        # wrong with a part ("open", "stuck"); ohm: of a part; duty: 1.0, or how often it is there; mends: what repairs
        # it.
        Trouble = Struct.new(:place, :hurt, :state, :ohm, :duty, keyword_init: true)

        OVER_LIMIT = 5.0e7
        MISLED = 0.03 # a look says what is not so

        attr_reader :id, :chain, :troubles, :module_id

        # day: Day, the values of this vehicle; random: of this circuit.
        def initialize(id, day, random, module_id: "abs", joints: nil)
          @id = id
          @day = day
          @random = random
          @module_id = module_id
          @joints = joints || default_joints
          @chain = Chain.new(wires, @joints, random, heavy: heavy?)
          @troubles = []
          @here = {}
          setup
        end

        # Puts in what is wrong.
        def hurt(trouble)
          @troubles << trouble
          @here[trouble] = true
        end

        # Draws anew whether what comes and goes is there: something was moved.
        def disturb
          @troubles.each { |trouble| @here[trouble] = @random.rand < trouble.duty if trouble.duty < 1.0 }
        end

        # What is wrong just now.
        def present
          @troubles.select { |trouble| @here[trouble] }
        end

        # Is this state of a part there now? place: nil for any.
        def wrong?(state, place = nil)
          present.any? { |trouble| trouble.state == state && (place.nil? || trouble.place == place) }
        end

        # Does anything that is there now show itself? Claims that the module would set: [[claim, at key on?], ...].
        def claims
          raise NotImplementedError
        end

        # Claims of all that was there at one time or another.
        def seen_by_now
          now = @here.dup
          @troubles.each { |trouble| @here[trouble] = true }
          claims.tap { @here = now }
        end

        # Is there a warning because of it just now?
        def warns?
          claims.any?
        end

        # Lamps lit because of it: ids.
        def lamps
          claims.any? ? own_lamps : []
        end

        # Every trouble that this circuit can have, drawn: Trouble.
        def draw_trouble
          kinds = wiring_troubles + part_troubles
          kinds[@random.rand(kinds.size)].call
        end

        # What the technician reads. test: only its name, unit and outcomes are used. Returns a Float, :over_limit, or
        # the id of an outcome.
        def perform(name, place, wire, unit, outcomes)
          return measured(name, place, wire, unit) if unit
          return looked(name, place, outcomes) if name.start_with?("look_", "encoder_film", "bearing_play")
          return wiggled(name, place, outcomes) if name.start_with?("wiggle", "shake")
          return cleared if name == "clear_codes"
          return reseated(name == "reseat" ? place : "ground_point") if name.start_with?("reseat")
          return reseated("ring") { |trouble| trouble.state == "dirty" } if name == "clean_ring"

          seen(name, place, wire, outcomes)
        end

        # Does doing the test move something of this circuit?
        def moves?(name, place)
          !place.nil? || name.start_with?("look_joint", "shake", "wiggle", "reseat") || apart_for(name, place, nil).any?
        end

        private

        attr_reader :day, :random

        def heavy?
          false
        end

        def setup
        end

        def default_joints
          raise NotImplementedError
        end

        # What stands at the ends in this state.
        def ends(_net, _state)
          raise NotImplementedError
        end

        def net(state, dead: false)
          net = Net.new
          chain.lay(
            net,
            apart: state.fetch(:apart, []),
            hurts: present.filter_map(&:hurt),
            battery: dead ? 0.0 : day.battery
          )
          ends(net, dead ? state.merge(key: false, dead: true) : state)
          net
        end

        # Volts between two nodes, by a meter of 10 megohms.
        def volts(from, upto, state)
          net = net(state)
          net.resistor(from, upto, 1.0e7)
          solved = net.solve
          solved.fetch(from, 0.0) - solved.fetch(upto, 0.0)
        end

        # Ohms between two nodes, sources off.
        def ohms(from, upto, state)
          net = net(state.merge(key: false), dead: true)
          net.current(upto, from, 1.0e-4)
          solved = net.solve
          (solved.fetch(from, 0.0) - solved.fetch(upto, 0.0)).abs / 1.0e-4
        end

        def measured(name, place, wire, unit)
          from, upto, state = *probes(name, place, wire)
          value = unit == "ohm" ? ohms(from, upto, state) + 0.1 + (random.rand * 0.2) : volts(from, upto, state)
          metered(value, unit)
        end

        # As a hand-held meter shows it.
        def metered(value, unit)
          return :over_limit if unit == "ohm" && value > OVER_LIMIT * (0.8 + (0.4 * random.rand))

          noise = 1 + (0.012 * gauss)
          zero = unit == "ohm" ? 0.1 * random.rand : 0.008 * gauss
          unit == "ohm" ? [(value * noise) + zero, 0.0].max : (value * noise) + zero
        end

        def gauss
          Math.sqrt(-2 * Math.log(1 - random.rand)) * Math.cos(2 * Math::PI * random.rand)
        end

        # [from, upto, state] of a test by its name.
        def probes(name, place, wire)
          return continuity(place, wire) if name == "continuity"
          return beyond(place, wire) if name == "insulation_from"
          return beside(place, wire) if name == "between_wires"
          return "#{wire}/fuse_box+", Net::BODY, { key: true } if name == "fuse_volts"
          return at_ground_point(name) if name.start_with?("ground_point", "ground_wire")

          points(name, place, wire) or raise NotImplementedError, "#{self.class} #{name}"
        end

        def continuity(place, wire)
          from, upto = place.split("-")
          ["#{wire}/#{from}+", "#{wire}/#{upto}-", { apart: [from, upto] }]
        end

        # From a connector in the middle to the part, both disconnected.
        def beyond(place, wire)
          ["#{wire}/#{place}+", Net::BODY, { apart: [place, @joints.last] }]
        end

        # From a wire to the one beside it, between a connector and the part, both disconnected.
        def beside(place, wire)
          other = chain.wires[chain.wires.index(wire) + 1]
          ["#{wire}/#{place}+", "#{other}/#{place}+", { apart: [place, @joints.last] }]
        end

        # The eyelet lies beyond the contact that it makes with the body.
        def at_ground_point(name)
          last = { apart: [@joints.last], key: true, run: true }
          eyelet = "ground_wire/fuse_box+"
          return eyelet, "ground_wire/#{@joints.last}-", last if name == "ground_wire_ohms"

          [eyelet, Net::BODY, last.merge(bulb: true)]
        end

        def apart_for(name, place, wire)
          return probes(name, place, wire).last[:apart] if %w[continuity insulation_from between_wires].include?(name)

          points(name, place, wire)&.last&.fetch(:apart, []) || []
        rescue NotImplementedError, NoMethodError
          []
        end

        # Codes cleared: back at once, on the road, or not.
        def cleared
          now = claims
          return "at_once" if now.any?(&:last)

          if now.any? || troubles.any? { |trouble| trouble.duty < 1.0 && random.rand < trouble.duty / 2 }
            "driving"
          else
            "good"
          end
        end

        # A connector parted, cleaned and joined: what sat there is often gone, and stays away. The block says which of
        # the troubles there it can cure, where that is not what sits in the wiring.
        def reseated(place, &cured)
          cured ||= lambda(&:hurt)
          before = warns?
          here = troubles.select { |trouble| trouble.place == place && cured.call(trouble) }
          here.each { |trouble| trouble.duty = 0.0 } if random.rand < 0.7
          disturb
          after = warns?
          return after ? "same" : "gone" if before

          "good"
        end

        # Inspections: what is at that place, seen or missed, and now and then what is not.
        def looked(name, place, outcomes)
          truth = sight(name, place, outcomes)
          return truth if random.rand >= MISLED

          random.rand < 0.7 ? outcomes.first : outcomes[random.rand(outcomes.size)]
        end

        def sight(name, place, outcomes)
          case name
          when "look_joint"
            joint_sight(place, outcomes)
          when "look_section"
            section_sight(place, outcomes)
          when "look_ground"
            joint_sight("ground_point", outcomes)
          else
            own_sight(name, outcomes)
          end
        end

        # What comes and goes is to be seen all the same.
        def joint_sight(place, outcomes)
          hurt = troubles.find { |trouble| trouble.place == place && trouble.hurt } or return outcomes.first
          return "loose" if hurt.state == "unplugged" && outcomes.include?("loose")
          return "blown" if hurt.state == "blown" && outcomes.include?("blown")
          return first_of(outcomes, %w[wet bad]) if hurt.hurt.kind == "together"

          random.rand < 0.7 ? first_of(outcomes, %w[bad]) : outcomes.first
        end

        def section_sight(place, outcomes)
          hurt = troubles.find { |trouble| trouble.place == place } or return outcomes.first
          seen = hurt.hurt.kind == "series" ? 0.45 : 0.65
          random.rand < seen ? first_of(outcomes, %w[bad]) : outcomes.first
        end

        def own_sight(_name, outcomes)
          outcomes.first
        end

        def first_of(outcomes, names)
          (names & outcomes).first || outcomes.first
        end

        # Moved on the spot: what comes and goes shows there; a bad contact that is always there often reacts too.
        def wiggled(name, place, outcomes)
          moved = moved_places(name, place)
          hit =
            troubles.any? do |trouble|
              moved.include?(trouble.place) && trouble.hurt && random.rand < (trouble.duty < 1.0 ? 0.9 : 0.3)
            end
          hit || random.rand < 0.015 ? outcomes.last : outcomes.first
        end

        def moved_places(name, place)
          all = @joints.each_with_index.flat_map { |joint, i| [joint, chain.sections[i]].compact } + [far_place]
          at = all.index(place) || 0
          case name
          when "wiggle_ground"
            ["ground_point"]
          when "shake_before"
            all.first(at)
          when /shake/
            all.drop(at + 1)
          else
            [place]
          end
        end
      end
    end
  end
end
