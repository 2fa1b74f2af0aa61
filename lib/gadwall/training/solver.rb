# frozen_string_literal: true

module Gadwall
  module Training
    # Finds the fault of an exercise with what the instruments show and nothing else: always the test that is advised,
    # or one drawn at random (to see how much advice is worth).
    class Solver
      MOST = 20

      ROUNDS = 3 # a fault can hide another, which shows in the scan after the first repair

      # One test done. test: full id; title, typed: texts; minutes; bits: what it told;
      # leader: of the suspects afterwards, in words, with its chance.
      Step = Struct.new(:test, :title, :typed, :minutes, :bits, :leader, :chance, keyword_init: true)
      # steps: Array of Step; assessment: the last; mended: places; right: is nothing wrong any more, and was nothing
      # mended that was sound?; condemned: was a sound module called proven?; minutes.
      Solution = Struct.new(:steps, :assessment, :mended, :wrong, :right, :condemned, :minutes, keyword_init: true)

      # exercise: Exercise; models: Vehicle::ModelCache.
      def initialize(exercise, models: Vehicle::ModelCache.new)
        @exercise = exercise
        @system = Vehicle::System.build(Vehicle::Sheet.new(exercise.vehicle), models: models)
      end

      # strategy: "advised" or "random"; most: tests of a round. Returns a Solution.
      def solve(strategy: "advised", most: MOST)
        @vehicle = @exercise.fresh_vehicle
        @random = Random.new(@exercise.seed + 1)
        @steps = []
        @mended = []
        @wrong = []
        @condemned = false
        ROUNDS.times do
          @assessment = round(strategy, most)
          break unless mend(@assessment.verdict) && warns?
        end
        solution
      end

      # The scan through the protocol, symptoms and lamps, as a technician enters them: Array of Entry. vehicle: as
      # brought in.
      def self.intake(exercise, vehicle)
        vehicle.set(key: "on")
        link = Simulator::Link.new(vehicle)
        reads, = Instruments::DiagnosticInterface.new(link).scan(vehicle.ecus.map(&:request_id))
        values = ScanRows.new(vehicle).values(reads)
        symptoms = Job::Entries::Symptoms.new("ids" => exercise.symptoms, "words" => exercise.complaint, "triage" => [])
        scan = Job::Entries::Scan.new("phase" => "before", "modules" => values[:modules], "codes" => values[:codes])
        [symptoms, *seen(vehicle, values), scan].each_with_index.map do |each, i|
          each.stamped(seq: i + 1, at: nil, by: "practice")
        end
      end

      # Lamps that are lit and those that stay out; where none is lit and codes are history, the fault is gone.
      def self.seen(vehicle, values)
        lit = vehicle.lamps
        lamps = Job::Entries::Lamps.new("lit" => lit, "out" => vehicle.lamps_fitted - lit)
        silent = values[:modules].any? { |row| !row["answered"] }
        lit.any? || silent ? [lamps] : [lamps, Job::Entries::Presence.new("fault" => "absent")]
      end
      private_class_method :seen

      # Does the repair of a suspect put a hidden fault right?
      def self.mends?(suspect, each)
        return false if suspect.none?

        suspect.places.include?("#{each.circuit.id}/#{each.fault.place}") ||
          suspect.members.any? { |circuit, fault| circuit.id == each.circuit.id && fault.place == each.fault.place } ||
          (
            suspect.repair == "renew_module" && each.fault.repair == "renew_module" &&
              suspect.circuit&.module == each.circuit.module
          )
      end

      private

      # One search, from a scan to a verdict: Diagnosis::Assessment.
      def round(strategy, most)
        log = Job::Log.new(Solver.intake(@exercise, @vehicle), @system)
        examiner = Examiner.new(@vehicle, random: @random)
        assessment = Diagnosis.assess(@system, log.body)
        most.times do
          break if assessment.verdict.proven?

          option = choose(strategy, assessment) or break
          log = log.with([entry(option, examiner, log.last_seq + 1)])
          before = assessment
          assessment = Diagnosis.assess(@system, log.body)
          @steps << step(option, log.entries.last, before, assessment)
        end
        assessment
      end

      # Mends what is at least likely. Returns whether anything was mended.
      def mend(verdict)
        named = verdict.conclusions.reject { |line| line.state == "open" || line.suspect.none? }
        named.each do |line|
          hidden = @vehicle.wiring.hidden.select { |each| Solver.mends?(line.suspect, each) }
          @condemned ||= line.proven? && line.suspect.repair == "renew_module" && hidden.empty?
          (hidden.empty? ? @wrong : @mended) << line.suspect.text
          hidden.each { |each| @vehicle.wiring.mend("#{each.circuit.id}/#{each.fault.place}") }
        end
        named.any?
      end

      # After the repair: codes cleared, driven, looked at again.
      def warns?
        @vehicle.set(key: "on")
        @vehicle.ecus.each(&:clear)
        3.times { @vehicle.set(key: "off").drive }
        @vehicle.lamps.any? || @vehicle.ecus.any? { |ecu| ecu.codes.any? } ||
          @vehicle.speaking.size < @vehicle.ecus.size
      end

      def choose(strategy, assessment)
        return assessment.next_tests.first if strategy == "advised"

        circuit, test = @system.test(coded(assessment).sample(random: @random))
        assessment.option(circuit, test)
      end

      # Tests of circuits that have a code, of all where none has.
      def coded(assessment)
        circuits = assessment.body.scans.flat_map(&:codes).filter_map(&:circuit_id).uniq
        ids = @system.test_ids.select { |id| circuits.include?(id.split(".").first) }
        ids.empty? ? @system.test_ids : ids
      end

      def entry(option, examiner, seq)
        result = examiner.perform(option.circuit, option.test)
        kind = option.test.numeric? ? Job::Entries::Reading : Job::Entries::Finding
        kind.of(test: option.id, typed: typed(result), result: result).stamped(seq: seq, at: nil, by: "practice")
      end

      def typed(result)
        result.is_a?(Quantity::Reading) ? result.to_s : result
      end

      def step(option, entry, before, after)
        lead = after.suspects.first
        Step.new(
          test: option.id,
          title: "#{option.circuit.title}: #{option.test.title}",
          typed: entry.typed,
          minutes: option.minutes,
          bits: Training.told(before, after).round(2),
          leader: lead&.text,
          chance: lead&.probability
        ).freeze
      end

      def solution
        Solution.new(
          steps: @steps,
          assessment: @assessment,
          mended: @mended,
          wrong: @wrong,
          right: right?,
          condemned: @condemned,
          minutes: @steps.sum(&:minutes)
        ).freeze
      end

      # Where nothing was wrong any more, that must have been said.
      def right?
        return false if @wrong.any? || @vehicle.wiring.hidden.any?

        @mended.any? || @assessment.suspects.first.none?
      end
    end
  end
end
