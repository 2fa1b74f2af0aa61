# frozen_string_literal: true

module Gadwall
  module Calculators
    # The quick sums: found by name or by what one looks for, their inputs checked, computed.
    class Book
      # value: Float or text; unit: text, that of the record where nil; more: [[name, value, unit], ...].
      Result = Struct.new(:value, :unit, :more, keyword_init: true)
      # A sum done. record: of data/sums; inputs: {id => value}; assumed: ids of those that nobody gave; result: Result
      # with its unit.
      Done = Struct.new(:record, :inputs, :assumed, :result, keyword_init: true)

      GROUPS = {
        "wheel" => WheelSums,
        "electrics" => ElectricSums,
        "battery" => BatterySums,
        "hydraulics" => HydraulicSums,
        "braking" => BrakeSums,
        "bolts" => BoltSums,
        "codes" => CodeSums,
        "judgement" => JudgementSums
      }.freeze
      DIGITS = 4
      MOST_LETTERS = 400

      class << self
        # {id => record with its "group"}.
        def records
          @records ||=
            GROUPS
              .keys
              .flat_map { |group| Knowledge.catalogue.sums(group).map { |row| row.merge("group" => group) } }
              .to_h { |row| [row["id"], row] }
              .freeze
        end

        # Records that speak of what is looked for, the best first; all for an empty text. text: words.
        def search(text)
          words = text.to_s.downcase.scan(/[\p{L}\d.]+/)
          return records.values if words.empty?

          scored = records.values.map { |row| [row, words.sum { |word| score(row, word) }, words] }
          scored.select { |_, score, _| score.positive? }.sort_by { |row, score, _| [-score, row["name"]] }.map(&:first)
        end

        # id: of a sum; given: {input id => text or number}. Returns Done. Raises UnknownNameError, MissingInput for
        # what is not given and cannot be assumed, InputError that names the input.
        def compute(id, given = {})
          record = records[id] or raise UnknownNameError.new(field: "sum", given: id, known: records.keys)
          check_names(record, given)
          given = given.transform_keys(&:to_s).reject { |_, text| text.to_s.strip.empty? }
          there = record["inputs"].map { |input| [input, given.fetch(input["id"]) { own(input) }] }
          inputs = there.select(&:last).to_h { |input, text| [input["id"], typed(input, text)] }
          missing = record["inputs"].reject { |input| inputs.key?(input["id"]) }
          raise MissingInput, missing if missing.any?

          assumed = record["inputs"].select { |input| input["assumed"] }.map { |input| input["id"] } - given.keys
          raw = GROUPS.fetch(record["group"]).public_send(id, **inputs.transform_keys(&:to_sym))
          Done.new(record: record, inputs: inputs, assumed: assumed, result: finished(raw, record)).freeze
        end

        # For the sums: a result without its unit.
        def result(value, more: [], unit: nil)
          Result.new(value: value, unit: unit, more: more)
        end

        # "120 120", "0,5; 1.2" => Floats. Raises InputError.
        def numbers(field, text)
          parts = text.to_s.split(/[\s;]+/).reject(&:empty?)
          values = parts.map { |part| Quantity::Decimal.read(part) }
          if values.empty? || values.any?(&:nil?) || values.any?(&:negative?) || values.size > 200
            raise InputError.new(field: field, given: text, expected: "numbers from 0 on, with spaces between")
          end

          values
        end

        # "40 34 13" => Integers. Raises InputError.
        def bytes(field, text)
          hex = text.to_s.gsub(/0x/i, "").gsub(/[\s,;:-]+/, "")
          unless hex.match?(/\A(?:\h{2})+\z/)
            raise InputError.new(
                    field: field,
                    given: text,
                    expected: "bytes of two hexadecimal digits, such as 40 34 13"
                  )
          end

          [hex].pack("H*").bytes
        end

        private

        def score(row, word)
          name = row["name"].downcase
          return 3 if name.split.include?(word) || row["id"].split("_").include?(word)
          return 2 if name.include?(word)

          "#{row["words"]} #{row["inputs"].map { |input| input["name"] }.join(" ")}".downcase.include?(word) ? 1 : 0
        end

        def check_names(record, given)
          known = record["inputs"].map { |input| input["id"] }
          unknown = given.keys.map(&:to_s) - known
          return if unknown.empty?

          raise UnknownNameError.new(field: record["id"], given: unknown.first, known: known)
        end

        # What stands where nothing is given: the choice shown, or what is assumed; nil where it has to be asked.
        def own(input)
          input["default"] || input["assumed"]
        end

        def typed(input, text)
          return choice(input, text.to_s) if input["choices"]
          return words(input, text) if input["text"]

          number(input, text)
        end

        def words(input, text)
          return text.to_s if text.to_s.length <= MOST_LETTERS

          raise InputError.new(field: input["id"], given: text, expected: "at most #{MOST_LETTERS} letters")
        end

        def choice(input, text)
          return text if input["choices"].include?(text)

          raise UnknownNameError.new(field: input["id"], given: text, known: input["choices"])
        end

        def number(input, text)
          value = Quantity::Decimal.read(text)
          low, high = input.values_at("low", "high")
          sound = value&.finite? && (low.nil? || value >= low) && (high.nil? || value <= high)
          return value if sound

          limits = low ? "a number from #{plain(low)} to #{plain(high)}" : "a number"
          unit = input["unit"].to_s.empty? ? "" : " #{input["unit"]}"
          raise InputError.new(field: input["id"], given: text, expected: "#{limits}#{unit}")
        end

        def plain(number)
          number.to_s.delete_suffix(".0")
        end

        def finished(raw, record)
          more = raw.more.map { |name, value, unit| [name, rounded(value), unit] }
          Result.new(value: rounded(raw.value), unit: raw.unit || record["unit"], more: more).freeze
        end

        # Four sensible digits.
        def rounded(value)
          return value if value.is_a?(String) || value.is_a?(Integer)
          return "not known" unless value.finite?
          return 0.0 if value.abs < 1e-12

          value.round(DIGITS - 1 - Math.log10(value.abs).floor)
        end
      end
    end
  end
end
