# frozen_string_literal: true

module Gadwall
  module Job
    # How far a job is: its stage, one sentence, and the one thing to do next. Once a decision stands it takes no
    # diagnosis.
    class Stage
      ALL = %w[intake codes trace decide repair proof report].freeze
      NAMES = {
        "intake" => "Check-in",
        "codes" => "Pre-scan",
        "trace" => "Trace",
        "decide" => "Decide",
        "repair" => "Repair",
        "proof" => "Verify",
        "report" => "Hand over"
      }.freeze
      SUSPECT_FROM = 0.05 # chance from which a location is called suspect

      # One of ALL.
      attr_reader :id

      # dossier: Dossier.
      def initialize(dossier)
        @dossier = dossier
        @id = find
      end

      # One sentence that says where the job stands.
      def sentence
        case id
        when "codes"
          "Checked in. Pre-scan all modules before any work."
        when "trace"
          trace_sentence
        when "decide"
          "#{sure} #{open_suspect.text}. Awaiting customer authorisation."
        when "repair"
          "#{chosen}. #{plan.done_count} of #{plan.repair.size} steps signed off."
        when "proof"
          "Repair done. #{count(@dossier.proof.open_points.size, "check")} outstanding."
        else
          report_sentence
        end
      end

      # The one thing to do next, in words.
      def next_action
        case id
        when "codes"
          "Enter the pre-scan"
        when "trace"
          trace_action
        when "decide"
          "Get the customer's authorisation"
        when "repair"
          plan.next_row&.title
        when "proof"
          @dossier.proof.open_points.first
        else
          @dossier.handed_over? ? "Print the report again" : "Print the report"
        end
      end

      private

      def find
        return "report" if @dossier.handed_over?
        return after_decision if @dossier.decided?
        return "codes" unless @dossier.log.scanned?

        search
      end

      # An entry that cannot be assessed is mended on the trace page.
      def search
        return "trace" if @dossier.trouble

        @dossier.decisions.any? || @dossier.assessment.verdict.proven? ? "decide" : "trace"
      end

      def after_decision
        return "repair" unless plan.done?

        @dossier.proof.proven? ? "report" : "proof"
      end

      def plan
        @dossier.plan
      end

      def chosen
        @dossier.decisions.map { |signed| signed.choice.name }.join("; ")
      end

      def open_suspect
        (@dossier.options || @dossier.offers.first).suspect
      end

      def sure
        (@dossier.options || @dossier.offers.first).conclusion.proven? ? "Proven:" : "Likely:"
      end

      def trace_action
        return "Withdraw the entry that does not fit" if @dossier.trouble

        best = @dossier.assessment.next_tests.first
        best ? best.test.title : "Nothing left to measure here"
      end

      def trace_sentence
        return @dossier.trouble.message if @dossier.trouble

        verdict = @dossier.assessment.verdict
        return "#{verdict.proven? ? "Proven" : "Likely"}: #{verdict.suspect.text}." unless verdict.state == "open"

        left = @dossier.assessment.posterior.places.count { |_, probability| probability >= SUSPECT_FROM }
        "Undetermined: #{count(left, "suspect location")}. Most likely: #{verdict.suspect.text}."
      end

      def report_sentence
        return "Repair verified. Ready to hand over." unless @dossier.handed_over?

        back = @dossier.log.of(Entries::Comeback::KIND).size
        back.zero? ? "Handed over." : "Handed over. Came back: #{count(back, "time")}."
      end

      def count(number, word)
        "#{number} #{word}#{"s" unless number == 1}"
      end
    end
  end
end
