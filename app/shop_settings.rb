# frozen_string_literal: true

module Web
  # What a workshop has set, kept while it runs: what it charges and is called, its units, by which interface vehicles
  # are read, what exercises are judged by. Everything set says by whom.
  class ShopSettings
    # store: Store::ShopStore; loader: JobLoader, which prices options; clock: as of Workshop.
    def initialize(store, loader, clock:)
      @store = store
      @loader = loader
      @clock = clock
    end

    # What the workshop charges: Gadwall::Decision::Shop.
    def shop
      @loader.shop
    end

    # shop: Gadwall::Decision::Shop, from now on; by: who.
    def charge(shop, by:, at: @clock.call)
      @store.save(shop, by: by, at: at.iso8601)
      @loader.shop = shop
    end

    # The units that the workshop likes: Gadwall::Quantity::Preferences.
    def units
      @units ||= @store.units
    end

    # units: Gadwall::Quantity::Preferences, from now on; by: who.
    def like(units, by:, at: @clock.call)
      @store.save_units(units, by: by, at: at.iso8601)
      @units = units
    end

    # Name and address: {"name", "address"}, nil until the workshop was begun.
    def card
      @card ||= @store.card
    end

    # As of Workshop#begin_with.
    def begin_with(card:, shop:, units:, by:, at: @clock.call)
      charge(shop, by: by, at: at)
      like(units, by: by, at: at)
      @store.save_card(card, by: by, at: at.iso8601)
      @card = card
    end

    # Drops what is kept, which may be ahead of what is written.
    def forget
      @units = @card = @rubric = nil
    end

    # Name of the CAN interface that vehicles are read by, or nil.
    def interface
      @store.interface
    end

    # name: of an interface of this machine, nil for none; by: who.
    def read_by(name, by:, at: @clock.call)
      @store.save_interface(name, by: by, at: at.iso8601)
    end

    # What exercises are judged by: Gadwall::Training::Rubric.
    def rubric
      @rubric ||= @store.rubric
    end

    # rubric: Gadwall::Training::Rubric, from now on; by: who.
    def judge_by(rubric, by:, at: @clock.call)
      @store.save_rubric(rubric, by: by, at: at.iso8601)
      @rubric = rubric
    end
  end
end
