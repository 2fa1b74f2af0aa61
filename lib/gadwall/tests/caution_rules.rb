# frozen_string_literal: true

module Gadwall
  module Tests
    # Cautions that the data asks for wherever a hand does such a thing (`at` in data/tests/cautions.yml), and those of
    # a load that is fitted for a test (`load_cautions` in data/circuits), so that no test can forget to say so.
    class CautionRules
      # harness: Circuits::Harness; catalogue: for the cautions.
      def initialize(harness, catalogue)
        @harness = harness
        @cautions = catalogue.cautions.values.select { |caution| caution["at"] }
      end

      # record: of a test; access: keys of the ways that it needs. Returns ids.
      def of(record, access)
        asked = @cautions.select { |caution| caution["at"].any? { |rule| asks?(rule, record, access) } }
        asked.map { |each| each["id"] } | of_load(record)
      end

      private

      def of_load(record)
        fitted = Needs::LOADS.keys.any? { |name| record.dig("state", name) }
        fitted ? @harness.template["load_cautions"] || [] : []
      end

      # Does every part of the rule hold?
      def asks?(rule, record, access)
        {
          "families" => -> { rule["families"].include?(@harness.template["family"]) },
          "circuits" => -> { rule["circuits"].include?(@harness.id) },
          "tests" => -> { rule["tests"].include?(record["key"] || record["id"]) },
          "access" => -> { access.include?(rule["access"]) },
          "key" => -> { record.dig("state", "key") == rule["key"] },
          "apart" => -> { [rule["apart"], "both", "ends", "here"].include?(record.dig("state", "disconnected")) }
        }.all? { |part, held| !rule.key?(part) || held.call }
      end
    end
  end
end
