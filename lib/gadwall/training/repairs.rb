# frozen_string_literal: true

module Gadwall
  module Training
    # What was repaired on a vehicle, rightly or wrongly, and what is owed afterwards: to be learned, to be written.
    class Repairs
      # A repair as it was chosen. place: "circuit/place"; choice: Decision::Choice; plan: Repair::Plan.
      Work = Struct.new(:place, :choice, :plan, keyword_init: true)
      # A place that was repaired. right: was something wrong there?; at: how many acts came before; price: of the part.
      Repaired = Struct.new(:place, :right, :at, :price, keyword_init: true)

      # Routines of the stand (what they set) as plans have them.
      LEARNS = {
        "park_brake" => "learn:park_brake",
        "steering_angle" => "learn:steering_angle",
        "yaw" => "learn:yaw",
        "pressure" => "learn:pressure",
        "pad_wear" => "learn:pad_wear",
        "end_of_line" => "test:end_of_line"
      }.freeze
      OWES = /\A(?:learn|write):/

      # all: Array of Repaired; mended, wrong: titles of places in which something was wrong, or nothing; owed: words of
      # plans.
      attr_reader :all, :mended, :wrong, :owed

      # vehicle: Simulator::VehicleUnderTest; shop: Decision::Shop, for what parts and hours cost.
      def initialize(vehicle, shop)
        @vehicle = vehicle
        @system = vehicle.system
        @shop = shop
        @all = []
        @mended = []
        @wrong = []
        @owed = []
      end

      # The work at a place, with its composed plan. option: id, the first where there is none of it. Returns Work.
      def work(place, option)
        options = Decision::PlaceOptions.new(@system, place, shop: @shop)
        choice = options.choices.find { |each| each.id == option } || options.choices.first
        Work.new(place: place, choice: choice, plan: Repair::Composer.plan(@system, [options.work(choice.id)])).freeze
      end

      # [minutes, money] of a Work.
      def cost(work)
        hours = work.choice.hours
        [hours * 60.0, (work.choice.price + (hours * @shop.rate)).round]
      end

      # What was hidden at the place is gone; what the repair asks to be learned is owed. at: how many acts came before.
      # Returns what is to be said.
      def mend(work, at:)
        title = words_of(work.place)
        gone = @vehicle.wiring.mend(work.place)
        gone += mend_module(work.place) if gone.zero?
        (gone.zero? ? @wrong : @mended) << title
        @all << Repaired.new(place: work.place, right: gone.positive?, at: at, price: work.choice.price).freeze
        @owed |= work.plan.steps.flat_map(&:does).grep(OWES)
        @vehicle.set(disconnected: {})
        "#{title}: done"
      end

      # Steps were signed: nobody owes any more what they do. words: of plans.
      def signed(words)
        @owed -= words
      end

      # A routine has run. row: of data/simulation/routines.
      def learned(row)
        @owed -= [LEARNS[row["sets"]]].compact
        @owed -= ["learn:acceleration"] if row["sets"] == "yaw"
      end

      # Was nothing repaired yet, rightly or wrongly?
      def none?
        mended.empty? && wrong.empty?
      end

      private

      # A module is one part, whatever of it was named.
      def mend_module(place)
        at, where = Decision::PlaceOptions.find(@system, place)
        fault = at.model.faults.find { |each| each.place == where }
        return 0 unless fault.repair == "renew_module"

        same =
          @vehicle.wiring.hidden.select do |each|
            each.fault.repair == "renew_module" && each.circuit.module == at.module
          end
        same.sum { |each| @vehicle.wiring.mend("#{each.circuit.id}/#{each.fault.place}") }
      end

      def words_of(place)
        at, where = Decision::PlaceOptions.find(@system, place)
        "#{at.title}, #{at.harness.place_name(where)}"
      end
    end
  end
end
