# frozen_string_literal: true

module Gadwall
  module Job
    # Where a job stands, derived from its log: the stage, one sentence, and the one thing to do next.
    class Standing
      STAGES = %w[intake codes trace decide repair proof report].freeze
      NAMES = { "intake" => "Taken in", "codes" => "First scan", "trace" => "Trace", "decide" => "Decide", "repair" => "Repair", "proof" => "Prove", "report" => "Hand over" }.freeze

      attr_reader :assessment, :options, :plan, :proof, :decision, :stage

      # log: Evidence::Log; rate: the shop's price of an hour.
      def initialize(log, rate:)
        @log = log
        @assessment = Diagnosis.assess(log.system, log.body)
        @options = Decision::Options.new(@assessment, rate: rate)
        @decision = log.of("decision").last
        @choice = @decision && @options.choice(@decision["option"])
        @plan = @choice && Repair::Plan.new(log.system.sheet, @assessment.verdict.suspect, @choice, log)
        @proof = Proof::Check.new(log, @assessment)
        @stage = find_stage
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
        when "codes" then "Taken in. No scan yet: read every module before anything is touched."
        when "trace" then trace_sentence
        when "decide" then "#{sure} #{@assessment.verdict.suspect.text}. The customer has not chosen yet."
        when "repair" then "#{@choice.name}. #{@plan.steps.count(&:done?)} of #{@plan.steps.size} steps signed."
        when "proof" then "Repaired. Open before hand-over: #{@proof.open_points.size}."
        else handed_over? ? "Handed over." : "Proven gone. Ready to hand over."
        end
      end

      # The one thing to do next.
      def next_action
        case stage
        when "codes" then "Enter the first scan"
        when "trace" then @assessment.next_tests.first ? @assessment.next_tests.first.test.title : "Nothing left to measure here"
        when "decide" then "Show the options to the customer"
        when "repair" then @plan.next_step&.title
        when "proof" then @proof.open_points.first
        else handed_over? ? "Print the report again" : "Print the report"
        end
      end

      private

      def find_stage
        return "report" if handed_over?
        return "codes" unless @log.of("scan").any? { |entry| entry["phase"] != "after" } || @log.of("scan_skipped").any?
        return after_decision if @choice

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
