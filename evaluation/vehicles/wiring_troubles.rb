# frozen_string_literal: true

module Gadwall
  module Evaluation
    module Vehicles
      # What can go wrong with the wiring of a circuit, drawn by its random numbers. Part of Branch.
      module WiringTroubles
        private

        # Ohms of a broken or rotten wire: over limit, damp, kilo-ohms.
        def break_ohm
          case random.rand
          when 0..0.5
            1.0e9
          when 0.5..0.75
            1.0e5 * Math.exp(random.rand * 5.0)
          else
            (heavy? ? 1.0 : 2000.0) * Math.exp(random.rand * 4.0)
          end
        end

        def contact_ohm
          heavy? ? 0.3 * Math.exp(random.rand * 4.2) : 20.0 * Math.exp(random.rand * 9.0)
        end

        def leak_ohm
          random.rand < 0.65 ? 0.05 * Math.exp(random.rand * 6.0) : 400.0 * Math.exp(random.rand * 3.5)
        end

        def duty(share)
          random.rand < share ? 0.3 + (random.rand * 0.5) : 1.0
        end

        def some(list)
          list[random.rand(list.size)]
        end

        def wiring_troubles
          [
            -> { in_section("series", break_ohm) },
            -> { in_section("ground", leak_ohm) },
            -> { in_joint(contact_ohm) },
            -> { in_joint(contact_ohm) },
            -> { wires.size > 1 ? water : in_joint(contact_ohm) },
            -> { unplugged }
          ]
        end

        def in_section(kind, ohm)
          k = random.rand(chain.sections.size)
          hurt = Chain::Hurt.new(kind: kind, at: k, wire: some(wires_in(chain.sections[k])), ohm: ohm)
          Branch::Trouble.new(place: chain.sections[k], hurt: hurt, state: kind, duty: duty(0.25))
        end

        def in_joint(ohm)
          joint = some(@joints)
          wire = some(wires_in(joint))
          hurt = Chain::Hurt.new(kind: "series", at: joint, wire: wire, ohm: ohm)
          Branch::Trouble.new(place: body_at(joint, wire), hurt: hurt, state: "contact", duty: duty(0.35))
        end

        # Wires that pass a joint or a section, where not all do.
        def wires_in(_place)
          wires
        end

        # What a wire's contact at a joint is part of: its ground wire is not in the fuse box but bolted to the body.
        def body_at(joint, wire)
          joint == "fuse_box" && wire == "ground_wire" ? "ground_point" : joint
        end

        def water
          joint = some(@joints.select { |each| each != "fuse_box" && wires_in(each).size > 1 })
          pair = wires.each_cons(2).to_a.then { |pairs| some(pairs) }
          hurt =
            Chain::Hurt.new(
              kind: "together",
              at: joint,
              wire: pair,
              ohm: 150.0 * Math.exp(random.rand * 5.0),
              side: some(%w[- +])
            )
          Branch::Trouble.new(place: joint, hurt: hurt, state: "wet", duty: duty(0.25))
        end

        def unplugged
          joint = some(@joints)
          through = wires_in(joint).select { |wire| body_at(joint, wire) == joint }
          hurt = Chain::Hurt.new(kind: "series", at: joint, wire: through, ohm: 1.0e9)
          Branch::Trouble.new(place: joint, hurt: hurt, state: "unplugged", duty: 1.0)
        end

        # The fuse of a wire, in the fuse box.
        def blown(wire)
          hurt = Chain::Hurt.new(kind: "series", at: "fuse_box", wire: wire, ohm: 1.0e9)
          Branch::Trouble.new(place: "fuse_box", hurt: hurt, state: "blown", duty: 1.0)
        end

        def part(place, state, ohm: nil, duty: 1.0)
          Branch::Trouble.new(place: place, state: state, ohm: ohm, duty: duty)
        end
      end
    end
  end
end
