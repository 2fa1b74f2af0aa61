# frozen_string_literal: true

require "forwardable"

module Gadwall
  module Training
    # A vehicle on the stand, with the instruments beside it and the hands that do things to it. Everything done is an
    # act with a kind and values; the same acts on a fresh stand give the same answers, so that a stand is kept as the
    # list of its acts. Minutes and money are counted; what was not made safe ends the exercise.
    class Stand
      extend Forwardable

      # What came of an act. text: what shows; value: Quantity::Reading or outcome id, or nil; test: full id of the
      # test that the diagnosis would know this as, or nil; capture: Signals::Capture, or nil; warning: text or nil;
      # read: Instruments::DiagnosticInterface::Read, or nil; minutes: that the act took; awake: was the key on before?
      Done = Struct.new(:kind, :text, :value, :test, :capture, :warning, :read, :minutes, :awake, keyword_init: true)
      # How an exercise ended: id of data/practice/dangers or "repaired".
      Ended = Struct.new(:id, :title, :text, keyword_init: true)

      KINDS = Acts::KINDS
      FLAT_V = 11.75 # common practice: below this a module gives up while it is written or learned

      attr_reader :exercise, :vehicle, :minutes, :money, :done, :ended, :made_safe, :hints, :hinted_at
      # What acts work with. repairs: Repairs.
      attr_reader :meter, :scope, :clamp, :examiner, :interface, :link, :repairs
      attr_writer :lifted

      def_delegators :repairs, :mended, :wrong, :owed
      def_delegator :repairs, :none?, :mended_nothing?

      # exercise: Exercise; shop: Decision::Shop, for what parts and hours cost.
      def initialize(exercise, shop: Decision::Shop.new)
        @exercise = exercise
        @vehicle = exercise.fresh_vehicle
        random = Random.new(exercise.seed + 1)
        @meter = Instruments::Meter.new(vehicle, random: random)
        @scope = Instruments::Scope.new(vehicle, random: random)
        @clamp = Instruments::Clamp.new(vehicle, random: random)
        @examiner = Examiner.new(vehicle, random: random)
        @link = Simulator::Link.new(vehicle)
        @interface = Instruments::DiagnosticInterface.new(link)
        @minutes = 0.0
        @money = 0
        @hints = 0
        @done = []
        @tokens = Set.new
        @made_safe = []
        @repairs = Repairs.new(vehicle, shop)
        @lifted = false
        @wheels_off = []
      end

      # The stand after acts. acts: [{"kind" =>, ...}, ...], Strings.
      def self.replay(exercise, acts, shop: Decision::Shop.new)
        new(exercise, shop: shop).tap { |stand| acts.each { |act| stand.act(act) } }
      end

      # Does one act. act: Hash with "kind" (of KINDS) and its values. Returns Done. Raises InputError,
      # UnknownNameError; what is refused changes nothing.
      def act(act)
        kind = act["kind"]
        kind_of_act = Acts::BY_KIND[kind] or raise UnknownNameError.new(field: "act", given: kind, known: KINDS)
        raise InputError.new(field: "act", given: kind, expected: "an exercise that goes on") if ended

        before = minutes
        awake = state.awake?
        each = kind_of_act.new(self, act).perform
        @tokens << act["token"]
        each.minutes = minutes - before
        each.awake = awake
        @done << each.freeze
        each
      end

      # Was an act of this form done already? token: text.
      def knows?(token)
        @tokens.include?(token)
      end

      def system
        vehicle.system
      end

      def state
        vehicle.state
      end

      # Is the vehicle off the ground?
      def lifted?
        @lifted
      end

      # Corners whose wheels are off.
      def wheels_off
        @wheels_off.dup
      end

      # Ids of joints that are apart. circuit: id.
      def apart(circuit)
        state.disconnected.fetch(circuit, [])
      end

      # What the last act of a kind answered, "" before the first.
      def said_of(kind)
        done.reverse.find { |each| each.kind == kind }&.text.to_s
      end

      # What the interface shows of a circuit, now: [[name, value, unit], ...]. circuit: of any System of this vehicle.
      def live(circuit)
        rows = system.catalogue.data_identifiers.values.reject { |row| row["written"] }
        rows.select { |row| speaks_of?(row["id"], circuit) }.filter_map { |row| live_value(row) }
      end

      # Volts at the battery, as the support unit or a meter shows them.
      def battery_volt
        state.battery_volt(system.sheet.system_voltage.to_i)
      end

      # Is this a test point of a connector, "wire@connector.near" or "wire@connector.far"? harness: Circuits::Harness.
      def point?(harness, node)
        wire, place = node.split("@")
        joint, side = place.to_s.split(".")
        !!harness.wire(wire) && harness.connectors.any? { |each| each.id == joint } && %w[near far].include?(side)
      end

      # Lamps that are lit: of failing circuits, and of what was not learned.
      def lamps
        (vehicle.lamps + (owed.any? ? ["abs"] : [])).uniq
      end

      # Is everything right again: nothing hidden is left and nothing is owed?
      def right?
        vehicle.wiring.hidden.empty? && owed.empty?
      end

      # What an act takes: minutes, in which the vehicle goes on, and money.
      def spend(minutes, money = 0)
        @minutes += minutes
        @money += money
        vehicle.wait(minutes * 60)
      end

      # word: as plans have it.
      def make_safe(word)
        @made_safe |= [word]
      end

      # Was that made safe?
      def safe?(word)
        made_safe.include?(word)
      end

      # On its wheels again; the stands are gone.
      def set_down
        @lifted = false
        @made_safe -= [Acts::Stands::WORD]
      end

      # A wheel is off, or on. corner: id.
      def wheel(corner, off:)
        off ? @wheels_off |= [corner] : @wheels_off -= [corner]
      end

      # A hint was bought. seq: of the last entry of the record.
      def hinted(seq)
        @hints += 1
        @hinted_at = seq
      end

      # Ends the exercise. id: of data/practice/dangers. Returns Done.
      def ends(id)
        row = system.catalogue.dangers.fetch(id)
        @ended = Ended.new(id: id, title: row["title"], text: row["ends"]).freeze
        Done.new(kind: "ended", text: "#{row["title"]}. #{row["ends"]}")
      end

      # The vehicle goes back to its owner.
      def hand_back
        @ended = Ended.new(id: "handed_back", title: "Handed back", text: "").freeze
      end

      private

      def speaks_of?(id, circuit)
        return true if id == "system_voltage"

        circuit.wheel? ? id.start_with?("wheel_") : [circuit.id, circuit.family].include?(id)
      end

      def live_value(row)
        knows = ->(ecu) { row["modules"].include?(ecu.id) || row["modules"] == ["*"] }
        ecu = vehicle.speaking.find(&knows) or return
        bytes = interface.read_data(ecu.request_id, row["did"]) or return
        raw = bytes.reduce(0) { |sum, byte| (sum << 8) | byte }
        [row["name"], (raw * row["step"]).round(2), row["unit"]]
      end
    end
  end
end
