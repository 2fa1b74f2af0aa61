# frozen_string_literal: true

module Gadwall
  module Signals
    # What the analyses have in common: findings with a kind, a confidence 0..1 and a text for the technician, the
    # moments at which each shows, and limits by name. The class that includes it sets @findings to [] and @limits to
    # the rows of data/diagnosis/signal.yml by id.
    module Findings
      MOST_MOMENTS = 300 # of one finding; more would only hide the signal behind marks

      attr_reader :findings

      # What a page draws besides, as fields.
      def drawn
        {}
      end

      # Where to look for each finding: [{kind:, at_s: [seconds, ...]}, ...].
      def marks
        @marks ||= []
      end

      private

      def limit(id)
        @limits.fetch(id).fetch("value")
      end

      def add(kind, confidence, text, at_s: [], **details)
        mark(kind, at_s)
        findings << { kind: kind, **details, confidence: confidence.round(2), text: text }
      end

      def mark(kind, at_s)
        marks << { kind: kind, at_s: at_s.first(MOST_MOMENTS).map { |time| time.round(7) } } unless at_s.empty?
      end
    end
  end
end
