# frozen_string_literal: true

module Web
  module Pages
    # Pads and discs of a job's vehicle: readings by corner, what they tell, how far they go.
    class PadsPage < Page
      # earlier: Array of Entries::Pads of the vehicle's other jobs, oldest first; units: Quantity::Preferences.
      def initialize(dossier, earlier: [], units: Gadwall::Quantity::Preferences.new, errors: {}, typed: {})
        super(dossier, errors: errors, typed: typed)
        @units = units
        @entry = dossier.log.of("pads").last
        @earlier = earlier + dossier.log.of("pads")[0...-1].to_a
      end

      def title
        "#{number} · Pads"
      end

      # Gadwall::Pads::Sheet of the last measuring, or nil.
      def sheet
        @entry&.sheet
      end

      def judgement
        return unless sheet

        @judgement ||= Gadwall::Pads::Judgement.new(sheet, earlier: @earlier.map(&:sheet), new_at: @entry.new_at)
      end

      def figure
        Svg::PadsFigure.new(sheet, judgement, sensors: sensors, units: @units).to_s
      end

      # Corners whose pads carry a wear sensor, and circuits that belong to both wheels of an axle.
      def sensors
        loops = dossier.system.circuits.select { |circuit| circuit.family == "pad_wear" }
        loops.flat_map { |circuit| both?(circuit) ? sides(circuit.corner) : [circuit.corner] }.compact
      end

      # In words: who speaks, and when.
      def sensor_words
        return "No pad carries a wear sensor by the vehicle sheet." if sensors.empty?

        names = sensors.map { |corner| Gadwall::Vehicle::CORNERS.fetch(corner) }
        least = sensors.map { |corner| sheet&.axle(corner, "least") || Gadwall::Pads::Sheet::DEFAULTS["least"] }.min
        "Wear sensor: #{names.join(", ")}; it speaks at about #{format("%g", least)} mm. The others wear unseen."
      end

      # The thinnest lining of all: [mm, corner in words], nil before the first.
      def thinnest
        corner = sheet&.corners&.min_by { |each| sheet.least_lining(each) } or return
        [millimetres(sheet.least_lining(corner)), Gadwall::Vehicle::CORNERS.fetch(corner)]
      end

      # What stands in a field. path: names from the outside in.
      def value(*path)
        given = typed.dig("readings", *path) || @entry&.data&.dig("readings", *path)
        given = @units.shown(given, "mm") if given.is_a?(Float) && path != ["distance"]
        given.is_a?(Float) ? format("%.7g", given) : given.to_s
      end

      # A lining as it is read out, in the workshop's unit.
      def millimetres(value)
        Svg::PadsFigure.plain(@units, value)
      end

      def new_at
        typed["new_at"] || (@entry&.new_at && format("%g", @entry.new_at))
      end

      # Corners with their names: [[id, words], ...].
      def corners
        Gadwall::Pads::Sheet::CORNERS.map { |id| [id, Gadwall::Vehicle::CORNERS.fetch(id)] }
      end

      private

      def both?(circuit)
        circuit.harness.id == "pad_wear_two"
      end

      def sides(corner)
        axle = Gadwall::Pads::Sheet.axle_of(corner)
        %w[left right].map { |side| "#{axle}_#{side}" }
      end
    end
  end
end
