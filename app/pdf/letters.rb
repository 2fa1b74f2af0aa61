# frozen_string_literal: true

require "arabic-letter-connector"

module Web
  module Pdf
    # Makes a text printable: letters of all scripts that the shipped typefaces have, right-to-left ones in the order in
    # which they are drawn, and a box for what none of them has, which is told on the page.
    class Letters
      # Families beside the first one, in the order in which they are asked: {name => file}.
      FALLBACKS = {
        "Letters" => "DejaVuSans.ttf",
        "Thai" => "NotoSansThai-Regular.ttf",
        "Han" => "DroidSansFallbackFull.ttf",
        "Hangul" => "NanumGothicCoding.ttf"
      }.freeze
      BOX = "□"
      RIGHT_TO_LEFT = /[\p{Hebrew}\p{Arabic}]/
      # From one right-to-left letter to the last before something else begins, with what stands between them.
      RUN = /#{RIGHT_TO_LEFT}(?:[\p{M}\s\d.,:'"()\u05BE\u05F3\u05F4-]*#{RIGHT_TO_LEFT}\p{M}*)*/
      INVISIBLE = /[\u00AD\u200B-\u200F\u202A-\u202E\u2060-\u206F\uFEFF]|\p{Cc}(?<!\n)/
      MIRRORED = { "(" => ")", ")" => "(", "[" => "]", "]" => "[", "«" => "»", "»" => "«" }.freeze

      # What could not be printed so far: Array of letters.
      attr_reader :missing

      # has: a Proc that answers whether any family has a letter.
      def initialize(&has)
        @has = has
        @known = Hash.new { |known, letter| known[letter] = letter.ascii_only? || @has.call(letter) }
        @missing = []
      end

      # text: as it was written. Returns text to be drawn from left to right.
      def printable(text)
        return text if text.ascii_only?

        plain = text.unicode_normalize(:nfc).gsub(INVISIBLE, "")
        boxed(plain.gsub(RUN) { |run| drawn(run) })
      end

      private

      # Letters that join are joined; then the run is turned round, its numbers are not.
      def drawn(run)
        turned = ArabicLetterConnector.transform(run).grapheme_clusters.reverse
        turned.map { |letter| MIRRORED.fetch(letter, letter) }.join.gsub(/\d[\d.,:]*\d/, &:reverse)
      end

      def boxed(text)
        text
          .each_char
          .map do |letter|
            next letter if letter.match?(/\s/) || @known[letter]

            @missing |= [letter]
            BOX
          end
          .join
      end
    end
  end
end
