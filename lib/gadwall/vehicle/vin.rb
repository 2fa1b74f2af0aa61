# frozen_string_literal: true

module Gadwall
  module Vehicle
    # Vehicle identification number: form, and the check digit where there is one (49 CFR 565.15, ISO 3779; from
    # memory). Outside North America and China the check digit is not required, so a wrong one is told and never
    # refused.
    module VIN
      FORM = /\A[A-HJ-NPR-Z0-9]{17}\z/
      WEIGHTS = [8, 7, 6, 5, 4, 3, 2, 10, 0, 9, 8, 7, 6, 5, 4, 3, 2].freeze
      VALUES = {
        **("A".."H").zip(1..8).to_h,
        **("J".."N").zip(1..5).to_h,
        "P" => 7,
        "R" => 9,
        **("S".."Z").zip(2..9).to_h,
        **("0".."9").zip(0..9).to_h
      }.freeze

      # 17 letters and digits without I, O, Q.
      def self.well_formed?(text)
        text.to_s.upcase.match?(FORM)
      end

      # The weighted sum, or nil for a text that is no identification number.
      def self.weighted_sum(text)
        return nil unless well_formed?(text)

        text.upcase.chars.zip(WEIGHTS).sum { |letter, weight| VALUES.fetch(letter) * weight }
      end

      # "0" to "9" or "X": what the ninth place should be.
      def self.check_digit(text)
        sum = weighted_sum(text) or return nil
        (sum % 11) == 10 ? "X" : (sum % 11).to_s
      end

      # Does the ninth character fit the others? (ISO 3779, 49 CFR 565)
      def self.check_digit_right?(text)
        check_digit(text) == text.to_s.upcase[8]
      end
    end
  end
end
