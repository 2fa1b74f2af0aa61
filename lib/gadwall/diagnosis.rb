# frozen_string_literal: true

module Gadwall
  # From evidence to suspects, next tests and a verdict.
  module Diagnosis
    # Version of the mathematics. What it concludes from the same evidence may change with it, and with what is known.
    VERSION = "2"

    # Version of everything that an assessment depends on beside the evidence: the mathematics and the knowledge in
    # data/.
    def self.engine
      @engine ||= "#{VERSION}-#{Knowledge.fingerprint}"
    end

    # The one entry. system: Vehicle::System; evidence: Observations::Body. Returns a frozen Assessment.
    # Pure: no clock, no file, no randomness; the order of the evidence does not matter.
    def self.assess(system, evidence)
      Assessment.new(system, evidence).tap { system.circuits.each { |circuit| circuit.model.rest } }
    end
  end
end
