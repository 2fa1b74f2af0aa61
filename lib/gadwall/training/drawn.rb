# frozen_string_literal: true

module Gadwall
  module Training
    # Exercises drawn by a seed, without end: a vehicle, one fault or two, and the complaint that its lamps make.
    module Drawn
      # Sheets that between them have every circuit of data/circuits.
      VEHICLES = {
        "hatchback" => {
          "sensors" => "passive",
          "pad_wear_front" => "one"
        },
        "estate" => {
          "sensors" => {
            "front" => "active",
            "rear" => "direction"
          },
          "park_brake" => "caliper_motor",
          "stability" => "yes",
          "fluid_level" => "three",
          "brake_switch" => "two",
          "single_wire" => "yes",
          "pad_wear_front" => "two"
        },
        "hybrid" => {
          "sensors" => "active",
          "booster" => "electric_pump",
          "park_brake" => "cable_puller",
          "fluid_level" => "opens",
          "power" => "hybrid",
          "pad_wear_front" => "unit"
        },
        "lorry" => {
          "sensors" => "active",
          "towing" => "trailer",
          "booster" => "air",
          "fluid_level" => "none"
        },
        "pick-up" => {
          "sensors" => "passive",
          "towing" => "trailer_brake_module",
          "brake_switch" => "signal",
          "fluid_level" => "none",
          "bus" => "none",
          "pump" => "none"
        }
      }.freeze
      NAMES = [
        "Ferry hatchback, teal",
        "Lockside estate, sand",
        "Harbour hybrid, pearl",
        "Gravel lorry, ochre",
        "Orchard pick-up, rust"
      ].freeze # demo
      OWNERS = ["E. Marram", "Tidewater Bakers", "S. Oddfellow", "Gullwing Gravel", "R. Plimsoll"].freeze # demo
      COMES_AND_GOES = 0.4
      TRIES = 60

      # level: 1 to 4; seed: Integer. Returns an Exercise.
      def self.exercise(level, seed)
        random = Random.new((seed * 7) + level)
        TRIES.times do
          made = draw(level, seed, random)
          return made if made
        end
        raise Error, "level #{level}, seed #{seed}: no fault shows. Take another seed."
      end

      # An Exercise of these faults, with the complaint that they make; nil where nobody would notice them. was: faults
      # that are gone.
      def self.of(faults, sheet, id:, level:, seed:, customer:, was: [], point: "")
        vehicle = Simulator::VehicleUnderTest.new(sheet, faults: faults + was, seed: seed)
        vehicle.drive
        lamps = vehicle.lamps
        return unless noticed?(vehicle)

        fleeting = faults.any? { |each| each.include?("~") }
        Exercise.new(
          id: id,
          level: level,
          customer: customer,
          complaint: complaint(lamps, vehicle, fleeting, was.any?),
          vehicle: sheet,
          symptoms: fleeting || was.any? ? ["comes_and_goes"] : [],
          seed: seed,
          sealed: Sealed.pack("faults" => faults, "was" => was, "point" => point)
        ).freeze
      end

      # A vehicle as a job's sheet has it, with a fault drawn by a seed. sheet: Hash; id: of the exercise. Returns an
      # Exercise. Raises Error where no fault of it shows.
      def self.for_sheet(sheet, seed, id:)
        random = Random.new(seed)
        system = Vehicle::System.build(Vehicle::Sheet.new(sheet))
        TRIES.times do
          made = of(faults(system, 1, random), sheet, id: id, level: 1, seed: seed, customer: "-")
          return made if made
        end
        raise Error, "Seed #{seed}: no fault shows on this vehicle. Take another."
      end

      # Does a monitor fail for each hidden fault by itself, or a module fall silent by it?
      def self.noticed?(vehicle)
        vehicle.wiring.hidden.all? do |each|
          vehicle.failing?(each.circuit, [each]) ||
            vehicle.wiring.with_only([each]) { vehicle.speaking.size < vehicle.ecus.size }
        end
      end

      def self.draw(level, seed, random)
        i = random.rand(NAMES.size)
        sheet = { "name" => NAMES[i], "plate" => "PX-#{100 + (seed % 900)}" }.merge(VEHICLES.values[i])
        system = systems.fetch(i) { systems[i] = Vehicle::System.build(Vehicle::Sheet.new(sheet.except("plate"))) }
        faults = faults(system, level, random)
        nothing = level == 4 && random.rand < 0.15
        of(
          nothing ? [] : faults,
          sheet,
          id: "seed-#{level}-#{seed}",
          level: level,
          seed: seed,
          customer: OWNERS[random.rand(OWNERS.size)],
          was: nothing ? faults.first(1).map { |each| each.split(/[~@]/).first } : [],
          point: "Drawn by seed #{seed}."
        )
      end

      def self.systems
        @systems ||= {}
      end

      # Level 1: one fault that stays; 2: any place; 3: one that may come and go; 4: two, or one.
      def self.faults(system, level, random)
        wanted = level == 4 && random.rand < 0.6 ? 2 : 1
        circuits(system, wanted, random).map do |circuit|
          fault = often(circuit.model.faults, random)
          fleeting = level >= 3 && fault.intermittent > 0.3 && random.rand < COMES_AND_GOES
          "#{circuit.id}.#{fault.id}#{"~0.5" if fleeting}"
        end
      end

      # So many different ones, by how often vehicles come in for them.
      def self.circuits(system, wanted, random)
        left = system.circuits.select { |circuit| circuit.model.faults.any? }
        Array.new(wanted) do
          rates = left.map { |circuit| circuit.model.faults.sum(&:rate) }
          left.delete_at(drawn_index(rates, random))
        end
      end

      # One of them, by how often each is met.
      def self.often(faults, random)
        faults[drawn_index(faults.map(&:rate), random)]
      end

      # Index of a weight, each as likely as it weighs.
      def self.drawn_index(weights, random)
        point = random.rand * weights.sum
        weights.index { |weight| (point -= weight).negative? } || (weights.size - 1)
      end

      # In the customer's words, by what is lit.
      def self.complaint(lamps, vehicle, fleeting, gone)
        names = lamps.filter_map { |id| vehicle.system.catalogue.lamps.dig(id, "name") }.first(2)
        said = names.any? ? "#{names.join(" and ")} on" : "A message came up, no lamp that stays"
        said = said.sub(/\A\p{Ll}/, &:upcase)
        return "#{said} last week. It has stayed away since." if gone

        "#{said}#{fleeting ? ", not always." : ", stays on."}"
      end

      private_class_method :draw, :noticed?, :systems, :faults, :circuits, :often, :drawn_index, :complaint
    end
  end
end
