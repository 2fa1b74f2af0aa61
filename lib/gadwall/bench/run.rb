# frozen_string_literal: true

module Gadwall
  module Bench
    # One diagnosis from the first scan to a verdict, always doing the recommended test.
    class Run
      # verdict: the last Verdict; tests: ids done; minutes: hands-on.
      Result = Struct.new(:verdict, :tests, :minutes, :assessment, keyword_init: true)

      # vehicle: SimulatedVehicle; symptoms: ids; most: tests at the most.
      def self.diagnose(system, vehicle, scan: vehicle.scan, symptoms: [], most: 15)
        body = Evidence::Body.new(observations: [], scans: [scan], open_access: [],
                                  symptoms: symptoms.map { |id| Evidence::Symptom.new(seq: 0, id: id) })
        minutes = 0
        loop do
          assessment = Diagnosis.assess(system, body)
          option = assessment.next_tests.first
          if assessment.verdict.proven? || body.observations.size >= most || option.nil?
            return Result.new(verdict: assessment.verdict, tests: body.observations.map { |each| "#{each.circuit.id}.#{each.test.id}" },
                              minutes: minutes, assessment: assessment)
          end
          minutes += option.minutes
          body = body.with(observe(vehicle, option, body.observations.size + 1))
        end
      end

      def self.observe(vehicle, option, seq)
        result = vehicle.perform(option.circuit, option.test)
        Evidence::Observation.new(seq: seq, circuit: option.circuit, test: option.test, result: result, typed: result.to_s)
      end
      private_class_method :observe
    end
  end
end
