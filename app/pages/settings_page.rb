# frozen_string_literal: true

module Web
  module Pages
    # What the workshop charges: its price of an hour, its currency, prices and hours of every way to repair.
    class SettingsPage < Page
      # An option with its figures as typed, or as they stand. own: changed by the workshop?
      Row = Struct.new(:id, :name, :price, :hours, :own, keyword_init: true)

      # shop: Gadwall::Decision::Shop; catalogue: Gadwall::Knowledge::Catalogue; saved: were they just saved?
      def initialize(shop, catalogue, errors: {}, typed: {}, saved: false)
        super(nil, errors: errors, typed: typed)
        @shop = shop
        @catalogue = catalogue
        @saved = saved
      end

      attr_reader :saved

      def title
        "Settings"
      end

      def rate
        typed["rate"] || @shop.rate
      end

      def currency
        typed["currency"] || @shop.currency
      end

      # Array of Row.
      def rows
        @catalogue.repairs.values.map do |record|
          priced = @shop.priced(record)
          given = (typed["edits"] || {})[record["id"]] || {}
          Row.new(
            id: record["id"],
            name: record["name"],
            price: given["price"] || priced["price"],
            hours: given["hours"] || priced["hours"],
            own: @shop.edits.key?(record["id"])
          )
        end
      end
    end
  end
end
