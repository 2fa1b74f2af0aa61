# frozen_string_literal: true

module Web
  module Pages
    # The first page of an empty workshop, and later what it is called.
    class StartPage < Page
      # card: {"name", "address"} or nil before it was begun.
      def initialize(card, errors: {}, typed: {})
        super(nil, errors: errors, typed: typed)
        @card = card
      end

      def title
        "Begin"
      end

      # What stands in a field.
      def value(name, otherwise = "")
        typed.fetch(name) { @card&.fetch(name, nil) || otherwise }
      end
    end
  end
end
