# frozen_string_literal: true

module Gadwall
  # From evidence to suspects, next tests and a verdict.
  module Diagnosis
    # The one entry. system: Vehicle::System; evidence: Evidence::Body. Returns a frozen Assessment.
    # Pure: no clock, no file, no randomness; the order of the evidence does not matter.
    def self.assess(system, evidence)
      Assessment.new(system, evidence)
    end
  end
end
