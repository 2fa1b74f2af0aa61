# frozen_string_literal: true

module Store
  # What the workshop charges, as it was last set (Gadwall::Decision::Shop), and the units that it likes.
  class ShopStore
    KEY = "shop"
    RUBRIC = "rubric"
    INTERFACE = "interface"
    CARD = "card"
    UNITS = "units"
    DEMO = "demo"

    def initialize(database)
      @settings = Settings.new(database)
    end

    # Is it an invented workshop, whose vehicles may be simulated?
    def demo?
      @settings[DEMO] == true
    end

    # Says that it is. by: who; at: ISO 8601 text.
    def mark_demo(by:, at:)
      @settings.keep(DEMO, true, by: by, at: at)
    end

    # Gadwall::Decision::Shop; that of the data where nothing was set.
    def shop
      kept = @settings[KEY]
      kept ? Gadwall::Decision::Shop.from_h(kept) : Gadwall::Decision::Shop.new
    end

    # shop: Gadwall::Decision::Shop; by: who; at: ISO 8601 text.
    def save(shop, by:, at:)
      @settings.keep(KEY, shop.to_h, by: by, at: at)
    end

    # Gadwall::Quantity::Preferences: the units that the workshop likes.
    def units
      Gadwall::Quantity::Preferences.new(@settings[UNITS] || {})
    end

    # units: Gadwall::Quantity::Preferences.
    def save_units(units, by:, at:)
      @settings.keep(UNITS, units.to_h, by: by, at: at)
    end

    # The workshop's name and address: {"name", "address"}, nil until it was begun.
    def card
      @settings[CARD]
    end

    # card: as above; by: who; at: ISO 8601 text.
    def save_card(card, by:, at:)
      @settings.keep(CARD, card, by: by, at: at)
    end

    # Name of the CAN interface of the machine that a vehicle is read by, or nil.
    def interface
      @settings[INTERFACE]
    end

    # name: text, or nil for none.
    def save_interface(name, by:, at:)
      @settings.keep(INTERFACE, name, by: by, at: at)
    end

    # What exercises are judged by: Gadwall::Training::Rubric. Points of rows that there are no more are left out.
    def rubric
      kept = @settings[RUBRIC] || {}
      Gadwall::Training::Rubric.new(kept.slice(*Gadwall::Knowledge.catalogue.rubric.keys))
    end

    # rubric: Gadwall::Training::Rubric.
    def save_rubric(rubric, by:, at:)
      @settings.keep(RUBRIC, rubric.to_h, by: by, at: at)
    end
  end
end
