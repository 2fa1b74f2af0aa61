# frozen_string_literal: true

module Gadwall
  module Evaluation
    module Vehicles
      # A vehicle by other hands: circuits of its own with hidden troubles, a technician who slips now and then, modules
      # that set codes, sometimes of the wrong kind, and lamps.
      class Car
        SLIP = 0.03 # measurements gone wrong
        WRONG_KIND = 0.12 # codes with a wrong sub-type
        CONSEQUENCE = 0.08 # vehicles with a code in a circuit that is sound
        WRONG_KINDS = %w[open short_to_ground no_signal implausible].freeze

        # id on the sheet => family, and what it is called with.
        BRANCHES = {
          "front_left" => nil,
          "front_right" => nil,
          "rear_left" => nil,
          "rear_right" => nil,
          "abs_module" => Families::ModuleFeed,
          "return_pump" => Families::ReturnPump,
          "fluid_level" => Families::FluidLevel,
          "brake_switch" => Families::BrakeLights,
          "pad_wear_front" => Families::PadLoop,
          "park_brake_left" => Families::CaliperMotor,
          "park_brake_right" => Families::CaliperMotor,
          "brake_pressure" => Families::Pressure,
          "chassis_bus" => Families::BusPair
        }.freeze

        LAMPS = %w[abs esc red_brake park_brake pad_wear level_low].freeze # that this vehicle has

        # The sheet that describes both of them, by the sensors.
        def self.sheet(sensors)
          {
            "name" => "vehicle by other hands",
            "sensors" => sensors,
            "park_brake" => "caliper_motor",
            "stability" => "yes",
            "pad_wear_front" => "one"
          }
        end

        attr_reader :branches, :day, :slips

        # sensors: "passive" or "active".
        def initialize(sensors, random)
          @random = random
          @day = Day.new(random)
          @slips = []
          wheel = sensors == "passive" ? Families::PassiveWheel : Families::ActiveWheel
          @branches =
            BRANCHES.to_h do |id, family|
              [id, (family || wheel).new(id, day, random, module_id: id.start_with?("park_brake") ? "epb" : "abs")]
            end
          @before = {}
        end

        # Puts in a trouble that shows itself. Returns the Trouble, or nil where none was found.
        def hurt(id)
          branch = branches.fetch(id)
          60.times do
            trouble = branch.draw_trouble
            next if branch.troubles.any? { |each| each.place == trouble.place }

            trial = branch.troubles.size
            branch.hurt(trouble)
            return trouble if shows?(branch)

            branch.troubles.delete_at(trial)
          end
          nil
        end

        # It was mended before it came in: a code is left.
        def cure(id)
          @before[id] = branches.fetch(id).claims.map(&:first)
          branches.fetch(id).troubles.clear
        end

        # Where something is wrong: {"front_left/sensor" => Trouble}.
        def truth
          branches.flat_map { |id, branch| branch.troubles.map { |trouble| ["#{id}/#{trouble.place}", trouble] } }.to_h
        end

        # Lamps lit now: ids.
        def lamps
          own = branches.values.flat_map(&:lamps)
          # the cluster lights them for a module that it misses
          own += %w[abs esc] if branches["chassis_bus"].lost.include?("abs")
          own.uniq
        end

        # Who answers, and codes: {answered: {module => true}, codes: [[circuit, claim, status], ...]}.
        def scan
          silent = branches["abs_module"].powered? ? [] : ["abs"]
          lost = branches["chassis_bus"].lost
          answered = { "abs" => !(silent + lost).include?("abs"), "epb" => true }
          %w[cluster steering gateway].each { |id| answered[id] = !lost.include?(id) }
          { answered: answered, codes: codes(answered) }
        end

        # What the technician reads; a slip now and then. Returns a Float, :over_limit or the id of an outcome.
        def perform(circuit_id, test_id, unit, outcomes)
          branch = branches.fetch(circuit_id)
          name, wire, place = parts_of(test_id, branch)
          branch.disturb if branch.moves?(name, place) && @random.rand < 0.5
          return slip(test_id, unit, outcomes) if !name.start_with?("look_", "gauge_") && @random.rand < SLIP

          return "refused" if name == "clear_codes" && unheard?(branch)

          warned = lamps.any?
          seen = branch.perform(name, place, wire, unit, outcomes)
          return "some" if name == "who_answers" && seen == "good" && !branches["abs_module"].powered?

          warned && seen == "good" && name.start_with?("reseat", "clean_ring") ? "same" : seen
        end

        private

        # Nothing can be cleared in a module that does not answer.
        def unheard?(branch)
          branch.id != "chassis_bus" && branch.module_id == "abs" &&
            (!branches["abs_module"].powered? || branches["chassis_bus"].lost.include?("abs"))
        end

        def shows?(branch)
          branch.claims.any? || (branch.id == "abs_module" && !branch.powered?)
        end

        def parts_of(test_id, branch)
          name, *rest = test_id.split(".")
          wire = rest.find { |word| branch.chain.wires.include?(word) }
          [name, wire, (rest - [wire]).first]
        end

        def slip(test_id, unit, outcomes)
          @slips << test_id
          return outcomes[@random.rand(outcomes.size)] unless unit
          return :over_limit if unit == "ohm" && @random.rand < 0.4
          return [0.0, 0.02 * @random.rand, day.battery * @random.rand][@random.rand(3)] if unit == "V"

          unit == "A" ? 0.0 : Math.exp(@random.rand * 17.0)
        end

        def codes(answered)
          own =
            branches.flat_map do |id, branch|
              next [] if answered[branch.module_id] == false && id != "chassis_bus"

              branch.seen_by_now.map { |claim, key_on| [id, subtype(claim), status(branch, key_on)] }
            end
          own += @before.flat_map { |id, claims| claims.map { |claim| [id, claim, "history"] } }
          own + consequence(own)
        end

        def subtype(claim)
          return claim if claim.start_with?("lost_") || @random.rand >= WRONG_KIND
          return claim unless %w[open short short_to_ground short_to_supply no_signal implausible].include?(claim)

          WRONG_KINDS[@random.rand(WRONG_KINDS.size)]
        end

        def status(branch, key_on)
          return "history" if branch.claims.empty?

          share = key_on ? 0.95 : 0.75
          @random.rand < share ? "current" : "history"
        end

        def consequence(own)
          return [] if own.empty? || @random.rand >= CONSEQUENCE

          id = %w[front_left front_right rear_left rear_right brake_pressure][@random.rand(5)]
          own.any? { |other, _, _| other == id } ? [] : [[id, "implausible", "history"]]
        end
      end
    end
  end
end
