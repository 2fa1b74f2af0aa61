# frozen_string_literal: true

require "digest"

module Gadwall
  # What the trade knows, as data. Read once, checked, frozen.
  module Knowledge
    FOLDER = File.join(ROOT, "data")
    # Folders that a diagnosis depends on; prices and steps of repairs do not change it.
    DIAGNOSTIC = %w[circuits parts tests codes diagnosis vehicle].freeze

    # The catalogue of data/ as shipped. Immutable, so sharing it between cases colours none of them.
    def self.catalogue
      @catalogue ||= Catalogue.new(FOLDER)
    end

    # Eight hexadecimal digits that change when anything changes that a diagnosis depends on.
    def self.fingerprint
      @fingerprint ||=
        begin
          files =
            DIAGNOSTIC.flat_map { |folder| Dir[File.join(FOLDER, folder, "*.yml")] } + [File.join(FOLDER, "meter.yml")]
          Digest::SHA256.hexdigest(files.sort.map { |file| File.binread(file) }.join)[0, 8]
        end
    end
  end
end
