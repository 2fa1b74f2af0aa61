# frozen_string_literal: true

module Web
  module Pages
    # The practice bench: the drawn line with its test points, meter, scope and clamp, key, pedal and lift, and what
    # each act showed.
    class BenchPage < Page
      # A switch that looks like what it is. act: kind; field, to: what a touch sends; on: does it stand so now?
      Switch = Struct.new(:name, :act, :field, :to, :on, keyword_init: true)
      SHOWN = 8
      TRACE_POINTS = 1200

      attr_reader :stand, :circuit, :range, :leads, :message

      # stand: Gadwall::Training::Stand; choice: {circuit:, range:, red:, black:} as the bench was left; message: text
      # of what was refused, or nil.
      def initialize(dossier, stand, choice: {}, errors: {}, taken: nil)
        super(dossier, errors: errors)
        @stand = stand
        @circuit = stand.system.circuits.find { |each| each.id == choice[:circuit] } || first_circuit
        @range = Svg::HandMeter::RANGES.map(&:first).include?(choice[:range]) ? choice[:range] : "off"
        @leads = { "red" => point(choice[:red]), "black" => point(choice[:black]) }
        @taken = taken
      end

      def title
        "#{number} · Bench"
      end

      def stage
        "bench"
      end

      def ended
        stand.ended
      end

      # [[id, title, here, has a code], ...] of the circuits that can be put on the bench.
      def circuits
        stand.system.circuits.map { |each| [each.id, each.title, each == circuit] }
      end

      def figure
        Svg::BenchFigure.new(circuit.harness, title: circuit.title, apart: stand.apart(circuit.id), leads: leads).to_s
      end

      def meter
        Svg::HandMeter.new(range, display).to_s
      end

      # What the display shows: the last reading of these leads.
      def display
        last = stand.done.reverse.find { |each| %w[meter unplug plug].include?(each.kind) }
        return last.text if last&.kind == "meter" && leads.values.all?

        range == "ohms" ? "OL" : "0.00"
      end

      # Leads in words: [[colour, words], ...].
      def lead_words
        leads.map { |colour, node| [colour, node ? Svg::BenchFigure.words(circuit.harness, node) : "hanging free"] }
      end

      def minutes
        stand.minutes.round
      end

      def battery
        format("%.1f V", stand.battery_volt)
      end

      def battery_low?
        stand.battery_volt < Gadwall::Training::Stand::FLAT_V
      end

      # What was done last, newest first: [[number, text, warning, test, taken], ...].
      def journal
        stand
          .done
          .each_with_index
          .to_a
          .last(SHOWN)
          .reverse
          .map { |done, i| [i + 1, done.text, done.warning, done.test, done.test && value_of(done)] }
      end

      # Test that the last reading would be entered as, and its title; nil where there is none.
      def takeable
        last = stand.done.last
        return unless last&.test && last.value && @taken != stand.done.size

        at, test = stand.system.test(last.test)
        [last.test, "#{at.title}: #{test.title}", value_of(last)]
      end

      # The last trace, for the scope: {"volts" or "ampere" values, seconds}, as JSON; nil without one.
      def trace
        capture = stand.done.reverse.find(&:capture)&.capture or return
        values = capture.channels.first.values
        step = [values.size / TRACE_POINTS, 1].max
        kept = values.each_slice(step).map(&:first)
        JSON.generate(
          "unit" => capture.channels.first.unit,
          "seconds" => capture.duration_s,
          "values" => kept.map { |value| value.round(4) }
        )
      end

      # Key, pedal, lift: Array of Switch.
      def switches
        state = stand.state
        [
          *%w[off on ready].map do |to|
            switch({ "off" => "Off", "on" => "On", "ready" => "Run" }[to], "key", to, state.key == to)
          end,
          switch("Pedal down", "pedal", state.pedal == "pressed" ? "released" : "pressed", state.pedal == "pressed"),
          switch("Battery support", "support", state.support ? "off" : "on", state.support)
        ]
      end

      # What lifts and holds: Array of Switch.
      def lifting
        rows = [
          switch("Chocks", "chock", nil, stand.made_safe.include?("chock:wheels")),
          switch(stand.lifted? ? "Lower" : "Lift", stand.lifted? ? "lower" : "lift", nil, stand.lifted?),
          switch("Stands", "stands", nil, stand.made_safe.include?("stands"))
        ]
        corner = circuit.corner or return rows
        off = stand.wheels_off.include?(corner)
        rows << Switch.new(name: "Wheel off", act: "wheel", field: corner, to: off ? "on" : "off", on: off)
      end

      # What is made safe, where this vehicle asks for it: Array of Switch.
      def safe_acts
        sheet = stand.system.sheet
        ids = %w[battery_off]
        ids += %w[high_voltage_off no_voltage_proven] unless sheet.power == "combustion"
        ids += %w[accumulator_empty pressure_read] if sheet.booster == "electric_pump"
        ids << "air_drained" if sheet.booster == "air"
        ids << "park_brake_service" unless sheet.park_brake == "lever"
        ids.map do |id|
          word, _, text = Gadwall::Training::Acts::Safe::WAYS.fetch(id)
          Switch.new(name: text.split(",").first, act: "safe", to: id, on: stand.made_safe.include?(word))
        end
      end

      # Places that can be looked at, wiggled or mended: [[id, words], ...].
      def places
        known = circuit.model.faults.map(&:place).uniq
        circuit
          .harness
          .places
          .select { |place| known.include?(place) }
          .map { |place| [place, circuit.harness.place_name(place)] }
      end

      # Lamps lit with the key on: texts.
      def lamps
        return [] unless stand.state.awake?

        stand.lamps.map { |id| catalogue.lamps.dig(id, "short") }
      end

      # Does a wheel turn by this circuit's corner?
      def wheel?
        circuit.wheel?
      end

      # Routines that the interface can start: [[id, name], ...].
      def routines
        ids = stand.vehicle.ecus.map(&:id)
        catalogue
          .routines
          .values
          .select { |row| row["modules"].intersect?(ids) }
          .map { |row| row.values_at("id", "name") }
      end

      # Shown by htmx alone.
      def choice
        { circuit: circuit.id, range: range, red: leads["red"], black: leads["black"] }
      end

      private

      def switch(name, act, to, state)
        Switch.new(name: name, act: act, to: to, on: state)
      end

      def first_circuit
        coded = dossier.log.of("scan").flat_map(&:codes).filter_map { |row| row["circuit"] }.first
        stand.system.circuits.find { |each| each.id == coded } || stand.system.circuits.first
      end

      def point(node)
        return if node.to_s.empty?

        node == "ground" || stand.point?(circuit.harness, node) ? node : nil
      end

      # As it would be typed.
      def value_of(done)
        value = done.value
        value.is_a?(Gadwall::Quantity::Reading) ? value.to_s : value
      end
    end
  end
end
