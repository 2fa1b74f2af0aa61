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
        return if %w[watch off_the_road].include?(record["id"])
        return undetermined(triage) if conclusion.nil? || conclusion.state == "open"

        too_early(conclusion) if record["dear"] && !conclusion.proven?
      end

      def self.off_road(triage)
        why = Decision::Triage.words(triage).join(" and ")
        "The vehicle must not be driven as it is (#{why}). Choose a repair, or keep it off the road."
      end

      # Whatever the vehicle is in, there is one thing that can be done besides testing.
      def self.undetermined(triage)
        other = triage.any? ? "keep it off the road" : "choose to monitor"
        "The diagnosis is still undetermined. Test further, or #{other}."
      end

      def self.too_early(conclusion)
        gaps = conclusion.missing.map { |gap| gap.text.sub(/\A\p{Lu}(?=\p{Ll})/, &:downcase) }
        missing = gaps.empty? ? "Test until it is proven" : "Still to test: #{gaps.join("; ")}"
        "Not before the diagnosis is proven. #{missing}."
      end
      private_class_method :off_road, :undetermined, :too_early
    end
  end
end
