# frozen_string_literal: true

module Web
  module Pages
    # Quick sums without a job: one box to look them up, inputs with units, the result, its formula and source, and one
    # touch that takes it into a job.
    class SumsPage < Page
      MOST_JOBS = 12
      # An input as shown. text: what was typed; hint: what stands greyed in an empty field.
      Field = Struct.new(:id, :name, :unit, :text, :hint, :choices, :error, keyword_init: true)

      attr_reader :query, :record, :done, :error, :jobs, :taken, :refused

      # query: what is looked for; id: of the sum that is open, or nil; given: {input => text}; jobs: [[number, name],
      # ...] that a result can be taken into; units: Quantity::Preferences; taken: number of the job that took it.
      def initialize(
        query: "",
        id: nil,
        given: {},
        jobs: [],
        taken: nil,
        units: Gadwall::Quantity::Preferences.new,
        refused: nil
      )
        super(nil)
        @query = query
        @record = Gadwall::Calculators::Book.records[id]
        @given = given
        @jobs = jobs.first(MOST_JOBS)
        @taken = taken
        @units = units
        @refused = refused
        compute if record && @given.any?
      end

      READABLE = {
        "ohm" => 1.0,
        "kohm" => 1e3,
        "Mohm" => 1e6,
        "mohm" => 1e-3,
        "V" => 1.0,
        "A" => 1.0,
        "mA" => 1e-3
      }.freeze

      # The result as it would be typed for a reading, in ohm, volt or ampere; nil where it is none.
      def reading
        unit = done&.result&.unit
        factor = READABLE[unit]
        value = done&.result&.value
        value.is_a?(Numeric) && factor ? format("%.6g", value * factor) : nil
      end

      def title
        record ? record["name"] : "Sums"
      end

      # [[group, [record, ...]], ...] of what was found.
      def found
        Gadwall::Calculators::Book.search(query).group_by { |row| row["group"] }
      end

      # Array of Field.
      def fields
        record["inputs"].map do |input|
          Field.new(
            id: input["id"],
            name: input["name"],
            unit: shown_unit(input["unit"]),
            text: @given.fetch(input["id"]) { input["default"].to_s },
            hint: hint(input),
            choices: input["choices"],
            error: (error.message if error && error.field == input["id"])
          )
        end
      end

      # [number, unit] of the result, large.
      def result
        figure(done.result.value, done.result.unit)
      end

      # [[words, number, unit], ...]
      def more
        done.result.more.map { |words, value, unit| [words, *figure(value, unit)] }
      end

      # The result as a note.
      def note
        typed = fields.reject { |field| field.text.empty? }
        inputs = typed.map { |field| "#{field.name} #{field.text} #{field.unit}".strip } + assumed
        "#{record["name"]}: #{result.join(" ").strip} (#{inputs.join(", ")})"
      end

      # What was counted with without being typed, in words.
      def assumed
        inputs = record["inputs"].select { |input| done.assumed.include?(input["id"]) }
        inputs.map do |input|
          figure = "#{shown(input, input["assumed"])} #{shown_unit(input["unit"])}".strip
          "#{input["name"]} #{figure} (assumed)"
        end
      end

      # What is still needed, as a sentence; nil where nothing is.
      def asks
        @asks&.message
      end

      def drawing
        record["drawing"] && done && Svg::SumFigure.new(record["drawing"], done.inputs, done.result).to_s
      end

      private

      def compute
        @done = Gadwall::Calculators::Book.compute(record["id"], kept)
      rescue Gadwall::Calculators::MissingInput => error
        @asks = error
      rescue Gadwall::InputError => error
        @error = error
      end

      UNITS = {
        "ohm" => "Ω",
        "mohm" => "mΩ",
        "kohm" => "kΩ",
        "Mohm" => "MΩ",
        "degC" => "°C",
        "mm2" => "mm²",
        "m/s2" => "m/s²",
        "uF" => "µF",
        "N m" => "N·m"
      }.freeze

      # Inputs as typed, in the sums' own units.
      def kept
        given = record["inputs"].to_h { |input| [input["id"], input["unit"]] }
        @given.to_h { |id, text| [id, given[id] ? @units.kept(text, given[id]) : text] }
      end

      def hint(input)
        return "#{shown(input, input["assumed"])} assumed" if input["assumed"]

        input["example"] ? "such as #{shown(input, input["example"])}" : ""
      end

      def shown(input, value)
        value.is_a?(Numeric) ? plain(tidy(@units.shown(value.to_f, input["unit"]))) : value.to_s
      end

      # [number, unit] as shown.
      def figure(value, unit)
        value = tidy(@units.shown(value, unit.to_s)) if value.is_a?(Numeric) && record["id"] != "convert"
        unit = @units.unit(unit.to_s) unless record["id"] == "convert"
        [plain(value), UNITS.fetch(unit, unit)]
      end

      # Four sensible digits.
      def tidy(value)
        value.zero? || !value.is_a?(Float) ? value : value.round(3 - Math.log10(value.abs).floor)
      end

      def shown_unit(unit)
        shown = record && record["id"] == "convert" ? unit.to_s : @units.unit(unit.to_s)
        UNITS.fetch(shown, shown)
      end

      def plain(value)
        return value.to_s unless value.is_a?(Float)

        value == value.round && value.abs < 1e15 ? value.round.to_s : value.to_s
      end
    end
  end
end
