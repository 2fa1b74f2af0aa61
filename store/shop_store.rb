# frozen_string_literal: true

require "json"

module Store
  # What the workshop charges, as it was last set (Gadwall::Decision::Shop).
  class ShopStore
    KEY = "shop"

    def initialize(database)
      @rows = database[:settings]
    end

    # Gadwall::Decision::Shop; that of the data where nothing was set.
    def shop
      text = @rows.where(key: KEY).get(:value)
      text ? Gadwall::Decision::Shop.from_h(JSON.parse(text)) : Gadwall::Decision::Shop.new
    end

    # shop: Gadwall::Decision::Shop; by: who; at: ISO 8601 text.
    def save(shop, by:, at:)
      row = { value: JSON.generate(shop.to_h), at: at, by: by.to_s }
      @rows.insert_conflict(target: :key, update: row).insert(key: KEY, **row)
    end
  end
end
