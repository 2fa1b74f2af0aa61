# frozen_string_literal: true

module Gadwall
  # A name that somebody signs with: trimmed of all that cannot be seen, composed (Unicode NFC), and with a letter in
  # it. Spaces, direction marks or a dot are nobody.
  module Signature
    # White space and what has no width, at either end.
    EDGES = /\A[\p{Z}\p{Cf}\p{Cc}]+|[\p{Z}\p{Cf}\p{Cc}]+\z/
    MOST_LETTERS = 200

    # text: as it was typed. Returns the name, or nil where it is none.
    def self.of(text)
      name = trimmed(text)
      name.match?(/\p{L}/) && name.length <= MOST_LETTERS ? name : nil
    end

    # The text without what cannot be seen at its ends, composed. text: as it was typed.
    def self.trimmed(text)
      given = text.to_s
      given = given.unicode_normalize(:nfc) unless given.ascii_only?
      given.gsub(EDGES, "")
    end
  end
end
