# frozen_string_literal: true

module Gadwall
  module Job
    # Where a job stands, derived from its log: the stage, one sentence, and the one thing to do next.
    class Standing
      STAGES = %w[intake codes trace decide repair proof report].freeze
      NAMES = {
        "intake" => "Taken in",
        "codes" => "First scan",
        "trace" => "Trace",
        "decide" => "Decide",
        "repair" => "Repair",
        "proof" => "Prove",
        "report" => "Hand over"
      }.freeze

      attr_reader :assessment, :plan, :proof, :stage

      # log: Evidence::Log; rate: the shop's price of an hour.
      def initialize(log, rate:)
        @log = log
        @assessment = Diagnosis.assess(log.system, log.body)
        @offers = @assessment.verdict.conclusions.map { |line| Decision::Options.new(@assessment, line, rate: rate) }
        @plan = decided? ? Repair::Plan.new(log.system.sheet, chosen, log) : nil
        @proof = Proof::Check.new(log, @assessment)
        @stage = find_stage
      end

      # The options of the line of investigation that is to be decided now; of the first once all are.
      def options
        @offers.find { |offer| decision_of(offer).nil? } || @offers.first
      end

      # How many lines are decided, of how many.
      def decided_count
        [@offers.count { |offer| decision_of(offer) }, @offers.size]
      end

      # The last decision, once every line has one; nil before.
      def decision
        decided? ? @log.of("decision").last : nil
      end

      # What is done: [[suspect, Decision::Options::Choice], ...], of the lines decided so far.
      def chosen
        @offers.filter_map do |offer|
          entry = decision_of(offer) or next
          choice = offer.choice(entry["option"])
          choice && [offer.conclusion.suspect, choice]
        end
      end

      def handed_over?
        @log.of("handover").any?
      end

      def reached?(stage)
        STAGES.index(stage) <= STAGES.index(self.stage)
      end

      # One sentence that says where the job stands.
      def sentence
        case stage
        when "codes"
          "Taken in. No scan yet: read every module before anything is touched."
        when "trace"
          trace_sentence
        when "decide"
          "#{sure} #{options.conclusion.suspect.text}. The customer has not chosen yet."
        when "repair"
          "#{chosen.map { |_, choice| choice.name }.join("; ")}. #{@plan.steps.count(&:done?)} of " \
            "#{@plan.steps.size} steps signed."
        when "proof"
          "Repaired. Open before hand-over: #{@proof.open_points.size}."
        else
          handed_over? ? "Handed over." : "Proven gone. Ready to hand over."
        end
      end

      # The one thing to do next.
      def next_action
        case stage
        when "codes"
          "Enter the first scan"
        when "trace"
          @assessment.next_tests.first ? @assessment.next_tests.first.test.title : "Nothing left to measure here"
        when "decide"
          "Show the options to the customer"
        when "repair"
          @plan.next_step&.title
        when "proof"
          @proof.open_points.first
        else
          handed_over? ? "Print the report again" : "Print the report"
        end
      end

      private

      def decided?
        chosen.size == @offers.size
      end

      # A decision names its place; one without a place belongs to the first line.
      def decision_of(offer)
        entries = @log.of("decision")
        entries.find { |entry| entry["place"] == offer.conclusion.suspect.place } ||
          (offer.equal?(@offers.first) ? entries.find { |entry| entry["place"].nil? } : nil)
      end

      def find_stage
        return "report" if handed_over?
        return "codes" unless @log.of("scan").any? { |entry| entry["phase"] != "after" } || @log.of("scan_skipped").any?
        return after_decision if decided?

        @assessment.verdict.proven? ? "decide" : "trace"
      end

      def after_decision
        return "repair" unless @plan.done?

        @proof.proven? ? "report" : "proof"
      end

      def sure
        @assessment.verdict.proven? ? "Proven:" : "Likely:"
      end

      def trace_sentence
        verdict = @assessment.verdict
        return "#{sure} #{verdict.suspect.text}." unless verdict.state == "open"

        left = @assessment.posterior.places.count { |_, probability| probability >= 0.05 }
        "Open: #{left} places still suspect. Leading: #{verdict.suspect.text}."
      end
    end
  end
end
