# frozen_string_literal: true

module Gadwall
  module Decision
    # Why an option may not be chosen as things stand: a sentence that says what to do instead, or nil.
    module Refusals
      # record: of data/repairs/options.yml; conclusion: Diagnosis::Verdict::Conclusion to be acted on, nil where
      # nothing was seen yet; triage: ids of
      # Decision::Triage that hold.
      def self.of(record, conclusion, triage)
        return off_road(triage) if record["id"] == "watch" && triage.any?
        return if record["id"] == "watch"
        if conclusion.nil? || conclusion.state == "open"
          return "The diagnosis is still undetermined. Test further, or choose to monitor."
        end

        too_early(conclusion) if record["dear"] && !conclusion.proven?
      end

      def self.off_road(triage)
        "The vehicle must not be driven as it is (#{Decision::Triage.words(triage).join(" and ")}). Choose a repair."
      end

      def self.too_early(conclusion)
        gaps = conclusion.missing.map { |gap| gap.text.sub(/\A\p{Lu}(?=\p{Ll})/, &:downcase) }
        missing = gaps.empty? ? "Test until it is proven" : "Still to test: #{gaps.join("; ")}"
        "Not before the diagnosis is proven. #{missing}."
      end
      private_class_method :off_road, :too_early
    end
  end
end
