# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # How often a code stands although its circuit is sound: seldom; an old one more often; and oftener still where what
    # was done to the vehicle before leaves such codes behind (data/codes/symptoms.yml, `leaves`).
    class FalseCodes
      def initialize(catalogue, body)
        @catalogue = catalogue
        @leaves = body.symptoms.flat_map { |symptom| catalogue.symptoms.fetch(symptom.id)["leaves"] || [] }
      end

      # 0..1. code: Observations::CodeSeen.
      def rate(code)
        old = code.status == "history"
        usual = @catalogue.model(old ? "history_code" : "false_code")
        old ? [usual, left_behind(code)].max : usual
      end

      private

      def left_behind(code)
        fitting = @leaves.select { |row| row["claims"].any? { |claim| File.fnmatch(claim, code.claim.to_s) } }
        fitting.map { |row| row["chance"] }.max || 0.0
      end
    end
  end
end
