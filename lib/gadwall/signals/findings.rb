# frozen_string_literal: true

module Gadwall
  module Signals
    # What the analyses have in common: findings with a kind, a confidence 0..1 and a text for the technician, and limits by
    # name. The class that includes it sets @findings to [] and @limits to the rows of data/diagnosis/signal.yml by id.
    module Findings
      attr_reader :findings

      private

      def limit(id)
        @limits.fetch(id).fetch("value")
      end

      def add(kind, confidence, text, **details)
        findings << { kind: kind, **details, confidence: confidence.round(2), text: text }
      end
    end
  end
end
