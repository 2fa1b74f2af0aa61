# frozen_string_literal: true

require "json"
require "zlib"

module Gadwall
  module Training
    # The solution of an exercise as its file holds it: packed, so that it cannot be read at a glance. No secret.
    module Sealed
      # solution: Hash. Returns text.
      def self.pack(solution)
        [Zlib::Deflate.deflate(JSON.generate(solution))].pack("m0")
      end

      # text: as packed. Returns the Hash. Raises InputError.
      def self.open(text)
        JSON.parse(Zlib::Inflate.inflate(text.to_s.delete(" \n").unpack1("m0")))
      rescue ArgumentError, Zlib::Error, JSON::ParserError
        raise InputError.new(field: "sealed", given: text.to_s[0, 20], expected: "a solution as bin/exercise packs it")
      end
    end
  end
end
