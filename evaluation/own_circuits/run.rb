# frozen_string_literal: true

module Gadwall
  module Evaluation
    module OwnCircuits
      # One diagnosis from the first scan to a verdict, by a strategy: which test of those that can be done is done
      # next.
      class Run
        # verdict: the last Verdict; tests: ids done; minutes: hands-on; beliefs: the leading suspect of each harness on
        # the way, [[probability, suspect], ...].
        Result = Struct.new(:verdict, :tests, :minutes, :assessment, :beliefs, keyword_init: true)

        # Each takes the assessment, the ids already done and the Random, and returns a NextTests::Option or nil.
        STRATEGIES = {
          # What Gadwall advises.
          "advised" => ->(assessment, _done, _system) { assessment.next_tests.first },
          # A textbook's order: the circuits with codes, each from its first test to its last.
          "textbook" =>
            lambda do |assessment, done, system|
              Run.first_undone(assessment, done, system) { |id| [system.test_ids.index(id)] }
            end,
          # The cheapest test first, whatever it tells.
          "cheapest" =>
            lambda do |assessment, done, system|
              Run.first_undone(assessment, done, system) do |id|
                [Run.minutes(assessment, system, id), system.test_ids.index(id)]
              end
            end
        }.freeze

        # vehicle: SimulatedVehicle; symptoms: ids; lamps: Array of Observations::Lamp, as noted; most: tests at the
        # most; strategy: of STRATEGIES; assess: takes the system and the evidence, for one who remembers what was asked
        # before.
        def self.diagnose(
          system,
          vehicle,
          scan: vehicle.scan,
          symptoms: [],
          lamps: [],
          most: 15,
          strategy: "advised",
          assess: Diagnosis.method(:assess)
        )
          body =
            Observations::Body.new(
              observations: [],
              scans: [scan],
              open_access: [],
              lamps: lamps,
              symptoms: symptoms.map { |id| Observations::Symptom.new(seq: 0, id: id) }
            )
          minutes = 0
          beliefs = []
          loop do
            assessment = assess.call(system, body)
            beliefs.concat(
              assessment.verdict.conclusions.map { |conclusion| [conclusion.probability, conclusion.suspect] }
            )
            done = body.observations.map(&:test_id)
            option = STRATEGIES.fetch(strategy).call(assessment, done, system)
            if assessment.verdict.proven? || body.observations.size >= most || option.nil?
              return(
                Result.new(
                  verdict: assessment.verdict,
                  tests: done,
                  minutes: minutes,
                  assessment: assessment,
                  beliefs: beliefs
                )
              )
            end
            minutes += option.minutes
            body = body.with(observe(vehicle, option, body.observations.size + 1))
          end
        end

        # The first test not yet done, by the order that the block gives, in a circuit that has a code or, without
        # codes, in any.
        def self.first_undone(assessment, done, system, &)
          coded = assessment.body.scans.flat_map(&:codes).filter_map(&:circuit_id).uniq
          ids = system.test_ids.select { |id| coded.empty? || coded.include?(id.split(".").first) }
          id = (ids - done).min_by(&) || (system.test_ids - done).first or return nil
          circuit, test = system.test(id)
          Diagnosis::NextTests.new(assessment.posterior, assessment.body).option(circuit, test)
        end

        # Minutes of a test, with what must be opened for it. id: text, of the System.
        def self.minutes(assessment, system, id)
          circuit, test = system.test(id)
          Diagnosis::NextTests.new(assessment.posterior, assessment.body).minutes(circuit, test)
        end

        def self.observe(vehicle, option, seq)
          result = vehicle.perform(option.circuit, option.test)
          Observations::Observation.new(
            seq: seq,
            circuit: option.circuit,
            test: option.test,
            result: result,
            typed: result.to_s
          )
        end
        private_class_method :observe
      end
    end
  end
end
