# frozen_string_literal: true

module Gadwall
  # What the trade knows, as data. Read once, checked, frozen.
  module Knowledge
    # The catalogue of data/ as shipped. Immutable, so sharing it between cases colours none of them.
    def self.catalogue
      @catalogue ||= Catalogue.new(File.join(ROOT, "data"))
    end
  end
end
