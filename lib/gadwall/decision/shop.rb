# frozen_string_literal: true

module Gadwall
  module Decision
    # What the workshop charges: its price of an hour, its currency, and its own prices and hours in place of those of
    # data/repairs/options.yml. Frozen.
    class Shop
      FIELDS = %w[price hours].freeze
      RATE = 70 # demo
      CURRENCY = "€" # demo
      RATES = (1..1000)
      PRICES = (0..100_000)
      HOURS = (0.1..100)

      # rate: price of an hour; currency: text; edits: {option id => {"price" =>, "hours" =>}}.
      attr_reader :rate, :currency, :edits

      def initialize(rate: RATE, currency: CURRENCY, edits: {})
        @rate = rate
        @currency = currency
        @edits = edits.freeze
        freeze
      end

      # A record of options.yml with the workshop's own figures.
      def priced(record)
        own = edits[record["id"]]
        own ? record.merge(own.slice(*FIELDS)) : record
      end

      # hash: as `to_h` wrote it, String keys.
      def self.from_h(hash)
        new(**hash.slice("rate", "currency", "edits").transform_keys(&:to_sym))
      end

      # For the store: String keys.
      def to_h
        { "rate" => rate, "currency" => currency, "edits" => edits }
      end

      # From what was typed. values: {"rate", "currency", "edits" => {option id => {"price", "hours"}}}, texts;
      # catalogue: Knowledge::Catalogue. Figures that are those of the data are no edits. Returns [Shop or nil, {field
      # => sentence}].
      def self.typed(values, catalogue)
        errors = {}
        rate = figure(values["rate"], RATES, "rate", "an hour's price", errors)
        currency = values["currency"].to_s.strip
        errors["currency"] = "Enter a currency of 1 to 8 letters." unless currency.length.between?(1, 8)
        edits = (values["edits"] || {}).filter_map { |id, row| edit(id, row, catalogue, errors) }.to_h
        [errors.empty? ? new(rate: rate, currency: currency, edits: edits) : nil, errors]
      end

      def self.edit(id, row, catalogue, errors)
        record = catalogue.repairs[id] or return
        own = {
          "price" => figure(row["price"], PRICES, "#{id}.price", "a price", errors),
          "hours" => figure(row["hours"], HOURS, "#{id}.hours", "hours", errors)
        }
        own.any? { |name, value| value && value != record[name] } ? [id, own.compact] : nil
      end

      def self.figure(text, range, field, what, errors)
        number = Quantity::Decimal.read(text)
        return number == number.to_i ? number.to_i : number if number && range.cover?(number)

        errors[
          field
        ] = "'#{text}' is not valid. Enter #{what} from #{range.min || range.begin} to #{range.max || range.end}."
        nil
      end
      private_class_method :edit, :figure
    end
  end
end
