# frozen_string_literal: true

module Gadwall
  module Training
    # Repair on the stand: by the steps of the composed plan as they are signed, or by hand; what that mends, what it
    # leaves, and what was to be learned afterwards.
    module StandRepair
      # Routines of the stand (what they set) as plans have them.
      LEARNS = {
        "park_brake" => "learn:park_brake",
        "steering_angle" => "learn:steering_angle",
        "yaw" => "learn:yaw",
        "pressure" => "learn:pressure",
        "pad_wear" => "learn:pad_wear",
        "end_of_line" => "test:end_of_line"
      }.freeze
      PREPARES = %w[zero prove chock].freeze
      OWES = /\A(?:learn|write):/

      # Lamps that are lit: of failing circuits, and of what was not learned.
      def lamps
        (vehicle.lamps + (owed.any? ? ["abs"] : [])).uniq
      end

      # Is everything right again: nothing hidden is left and nothing is owed?
      def right?
        vehicle.wiring.hidden.empty? && owed.empty?
      end

      private

      # place: "circuit/place"; option: id. Mended by hand: what the composed plan would make safe must have been.
      def act_mend(act)
        options = Decision::PlaceOptions.new(system, act["place"].to_s, shop: @shop)
        choice = options.choices.find { |each| each.id == act["option"] } || options.choices.first
        plan = Repair::Composer.plan(system, [options.work(choice.id)])
        missing = left_out(plan)
        return ends(missing) if missing

        paid(choice)
        mend(act["place"].to_s, plan, choice.price)
      end

      # A step of the signed plan: what it does is done. words: Array of words; places: of the decision, where this
      # step is the work itself; option: id.
      def act_step(act)
        words = Array(act["words"])
        spend(act["minutes"].to_f)
        @made_safe |= words.select { |word| PREPARES.include?(word.split(":").first) }
        words.each { |word| @owed -= [word] }
        chocked(words)
        works = Array(act["places"]).map { |place, option| decided(place, option) }
        say("step", works.empty? ? act["title"].to_s : works.join(" "))
      end

      def chocked(words)
        @made_safe |= ["chock:wheels"] if words.any? { |word| word.start_with?("chock:") }
        @lifted = true if words.any? { |word| word.start_with?("lifts:") }
        @lifted = false if words.any? { |word| word.start_with?("lowers:") }
      end

      def decided(place, option)
        options = Decision::PlaceOptions.new(system, place, shop: @shop)
        choice = options.choices.find { |each| each.id == option } || options.choices.first
        paid(choice)
        mend(place, Repair::Composer.plan(system, [options.work(choice.id)]), choice.price).text
      end

      # Id of the first danger that the plan takes away and nobody did; nil where all was made safe.
      def left_out(plan)
        needed = plan.steps.select { |step| step.phase == "make_safe" }.flat_map(&:does)
        rows = system.catalogue.dangers.values.select { |row| needed.include?(row["word"]) }
        rows.find { |row| !safe?(row["word"]) }&.fetch("id")
      end

      def paid(choice)
        spend(choice.hours * 60.0, (choice.price + (choice.hours * @shop.rate)).round)
      end

      # What was hidden at a place is gone; what the repair asks to be learned is owed.
      def mend(place, plan, price)
        title = place_words(place)
        gone = vehicle.wiring.mend(place)
        gone += mend_module(place) if gone.zero?
        (gone.zero? ? @wrong : @mended) << title
        @repairs << Stand::Repaired.new(place: place, right: gone.positive?, at: done.size, price: price).freeze
        @owed |= plan.steps.flat_map(&:does).grep(OWES)
        vehicle.set(disconnected: {})
        say("mend", "#{title}: done")
      end

      # A module is one part, whatever of it was named.
      def mend_module(place)
        at, where = Decision::PlaceOptions.find(system, place)
        fault = at.model.faults.find { |each| each.place == where }
        return 0 unless fault.repair == "renew_module"

        same =
          vehicle.wiring.hidden.select do |each|
            each.fault.repair == "renew_module" && each.circuit.module == at.module
          end
        same.sum { |each| vehicle.wiring.mend("#{each.circuit.id}/#{each.fault.place}") }
      end

      def place_words(place)
        at, where = Decision::PlaceOptions.find(system, place)
        "#{at.title}, #{at.harness.place_name(where)}"
      end

      # row: of data/simulation/routines, that has run.
      def learned(row)
        @owed -= [LEARNS[row["sets"]]].compact
        @owed -= ["learn:acceleration"] if row["sets"] == "yaw"
        @made_safe |= ["zero:park_brake_motor"] if row["id"] == "park_brake_service"
      end

      # The vehicle goes back to its owner.
      def act_finish(_act)
        @ended = Stand::Ended.new(id: "handed_back", title: "Handed back", text: "").freeze
        say("finish", right? ? "Handed back: nothing is wrong any more" : "Handed back: something is left")
      end
    end
  end
end
