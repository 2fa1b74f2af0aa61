# frozen_string_literal: true

module Gadwall
  module Job
    # The evidence of a job cannot be assessed: an entry does not fit the vehicle, or the engine failed on it. The job
    # stays readable; withdrawing the entry mends it.
    class AssessmentError < Error
      def initialize(cause)
        reason = cause.is_a?(Error) ? cause.message : "the engine failed on this evidence (#{cause.class})."
        super("This job cannot be assessed: #{reason} Withdraw the entry that does not fit.")
      end
    end
  end
end
