# frozen_string_literal: true

module Gadwall
  module Evaluation
    module OtherHands
      # Seeded runs over foreign vehicles: how the diagnosis does in a world that is not its own.
      class Study
        # kind => circuits that are hurt.
        KINDS = {
          "wheel speed" => %w[front_left front_right rear_left rear_right],
          "module supply" => %w[abs_module],
          "pump" => %w[return_pump],
          "fluid level" => %w[fluid_level],
          "brake switch" => %w[brake_switch],
          "pad wear" => %w[pad_wear_front],
          "park brake motor" => %w[park_brake_left park_brake_right],
          "pressure sensor" => %w[brake_pressure],
          "bus" => %w[chassis_bus]
        }.freeze
        # Of 30 runs.
        PLAN =
          (
            (["wheel speed"] * 6) + (["module supply"] * 2) + (["pump"] * 2) + (["fluid level"] * 2) +
              (["brake switch"] * 2) + (["pad wear"] * 2) + (["park brake motor"] * 2) + (["pressure sensor"] * 2) +
              (["bus"] * 2) + (["two faults"] * 3) + (["one circuit twice"] * 1) + (["nothing wrong"] * 4)
          ).freeze

        def initialize(models = Vehicle::ModelCache.new)
          @systems =
            %w[passive active].to_h do |sensors|
              sheet = Vehicle::Sheet.new(Vehicles::Car.sheet(sensors))
              [sensors, Vehicle::System.build(sheet, models: models).narrowed_to(*Vehicles::Car::BRANCHES.keys)]
            end
        end

        # seed: Integer; of PLAN by its number. Returns a Run::Row.
        def run(seed)
          kind = PLAN[seed % PLAN.size]
          sensors = (seed / PLAN.size).even? ? "passive" : "active"
          random = Random.new(seed)
          car = hurt(kind, sensors, random)
          Run.new(@systems.fetch(sensors), car, kind, seed).row
        end

        private

        def hurt(kind, sensors, random)
          loop do
            car = Vehicles::Car.new(sensors, random)
            return car if put_in(car, kind, random)
          end
        end

        def put_in(car, kind, random)
          case kind
          when "two faults"
            some = KINDS.except("module supply").values.flatten.sample(2, random: random)
            some.all? { |id| car.hurt(id) }
          when "one circuit twice"
            id = KINDS.except("bus", "module supply").values.flatten.sample(random: random)
            2.times.all? { car.hurt(id) }
          when "nothing wrong"
            id = KINDS.except("module supply").values.flatten.sample(random: random)
            car.hurt(id) && car.cure(id)
          else
            car.hurt(KINDS.fetch(kind).sample(random: random))
          end
        end
      end
    end
  end
end
