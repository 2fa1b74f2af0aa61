# frozen_string_literal: true

module Gadwall
  module Repair
    # A composed plan that would leave something undone, or do it while it hurts somebody. It is offered to nobody.
    class UnsoundPlanError < InputError
      attr_reader :findings

      # findings: Array of DryRun::Finding.
      def initialize(findings)
        @findings = findings
        super(
          field: "plan",
          given: findings.first(2).map(&:problem).join("; "),
          expected: "another option: this one cannot be composed so that nothing is left undone",
          fix: "Tell whoever keeps data/repairs."
        )
      end
    end
  end
end
