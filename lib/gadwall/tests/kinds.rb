# frozen_string_literal: true

module Gadwall
  module Tests
    # How tests of each kind behave: one class for each, in a file of its own. A new kind is a class here and a line in
    # `all`.
    module Kinds
      # id: of a test record. Returns its behaviour. Raises KeyError for a kind that is none.
      def self.of(id)
        all.fetch(id)
      end

      # {id => behaviour}.
      def self.all
        @all ||= {
          "ohms" => Ohms.new,
          "volts" => Volts.new,
          "amperes" => Amperes.new,
          "signal" => Signal.new,
          "watch" => Watched.new,
          "table" => Looked.new,
          "wiggle" => Moved.new,
          "compared" => Compared.new,
          "cleared" => Cleared.new
        }.freeze
      end
    end
  end
end
