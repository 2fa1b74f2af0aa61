# frozen_string_literal: true

module Gadwall
  module TroubleCodes
    # A code of heavy vehicles: suspect parameter number and failure mode (SAE J1939-73; from memory), "SPN 789 FMI 5".
    class SPN
      include WithoutFailureType

      FORM = %r{\A(?:spn[\s:.-]*)?(\d{1,6})[\s,;:/.-]*(?:fmi[\s:.-]*)(\d{1,2})\z}i
      MOST_SPN = 524_287
      MOST_FMI = 31

      attr_reader :spn, :fmi

      # Does the text name an FMI?
      def self.looks_like?(text)
        text.to_s.match?(/\bfmi\b/i)
      end

      # Raises InputError.
      def self.parse(text, field: "code")
        match = FORM.match(text.to_s.strip)
        spn, fmi = match&.captures&.map { |digits| Integer(digits, 10) }
        return new(spn, fmi) if match && spn <= MOST_SPN && fmi <= MOST_FMI

        raise InputError.new(
                field: field,
                given: text,
                expected: "SPN 0 to #{MOST_SPN} and FMI 0 to #{MOST_FMI}, such as SPN 789 FMI 5"
              )
      end

      def initialize(spn, fmi)
        @spn = spn
        @fmi = fmi
        freeze
      end

      # "SPN 789 FMI 5".
      def text
        "SPN #{spn} FMI #{fmi}"
      end
    end
  end
end
