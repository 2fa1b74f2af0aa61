# frozen_string_literal: true

module Gadwall
  module Evaluation
    module OtherHands
      # One foreign vehicle from intake to a verdict, always the advised test.
      class Run
        MOST = 15

        # kind: what is wrong with it ("wheel", "two faults", "nothing", ...); right: every fault found and no wrong
        # line; top: is the leading place one that is at fault; state; nothing: was 'nothing wrong now' concluded;
        # outside: proven by measurements from outside; module_wrong: a sound module proven; beliefs: [[p, right], ...];
        # doubted: true readings doubted at the end; repeats: tests done again that brought nothing new; slips: how
        # many.
        Row =
          Struct.new(
            :kind,
            :seed,
            :truth,
            :right,
            :top,
            :state,
            :proven_wrong,
            :nothing,
            :module_wrong,
            :beliefs,
            :doubted,
            :repeats,
            :slips,
            :tests,
            :minutes,
            :said,
            :log,
            :scan,
            keyword_init: true
          )

        # system: Vehicle::System of Vehicles::Car.sheet; car: Car with its troubles in; kind: for the table.
        def initialize(system, car, kind, seed)
          @system = system
          @car = car
          @kind = kind
          @seed = seed
          @beliefs = []
          @minutes = 0
          @log = []
          @wrong = {}
        end

        # Returns a Row.
        def row
          body = intake
          loop do
            @assessment = Diagnosis.assess(@system, body)
            note_beliefs
            option = @assessment.next_tests.first
            break if @assessment.verdict.proven? || @log.size >= MOST || option.nil?

            body = body.with(observe(option, body.observations.size + 1))
          end
          result
        end

        private

        def intake
          scan = @car.scan
          @scan = scan
          codes =
            scan[:codes].map do |circuit, claim, status|
              Observations::CodeSeen.new(
                seq: 1,
                code: "C0000",
                status: status,
                circuit_id: circuit,
                claim: claim == "short" ? "electrical" : claim,
                text: ""
              )
            end
          Observations::Body.new(
            scans: [Observations::Scan.new(seq: 1, answered: scan[:answered], codes: codes)],
            symptoms: symptoms,
            lamps: lamps
          )
        end

        # Lamps as the technician sees them at key on and after a short drive; those that stay out are noted as well.
        def lamps
          lit = @car.lamps
          Vehicles::Car::LAMPS.map { |id| Observations::Lamp.new(seq: 1, id: id, lit: lit.include?(id)) }
        end

        def symptoms
          if @car.truth.values.any? { |trouble| trouble.duty < 1.0 }
            [Observations::Symptom.new(seq: 0, id: "comes_and_goes")]
          else
            []
          end
        end

        def observe(option, seq)
          slips = @car.slips.size
          result = @car.perform(option.circuit.id, option.test.id, option.test.unit, option.test.outcomes&.keys)
          @minutes += option.minutes
          @wrong[seq] = @car.slips.size > slips
          @log << [option.id, result]
          Observations::Observation.new(
            seq: seq,
            circuit: option.circuit,
            test: option.test,
            result: value(option.test, result),
            typed: result.to_s
          )
        end

        def value(test, result)
          return result unless test.numeric?
          return Quantity::Reading.over_limit("ohm") if result == :over_limit

          Quantity::Reading.new(value: result, unit: test.unit)
        end

        def note_beliefs
          @assessment.verdict.conclusions.each do |conclusion|
            @beliefs << [conclusion.probability, right_place?(conclusion.suspect)]
          end
        end

        def right_place?(suspect)
          return @car.truth.empty? if suspect.none?

          mended(suspect).intersect?(@car.truth.keys)
        end

        # Where the suspect would be mended, a shared cause at each of its members.
        def mended(suspect)
          suspect.places +
            (suspect.cause ? suspect.members.map { |circuit, fault| "#{circuit.id}/#{fault.place}" } : [])
        end

        def result
          verdict = @assessment.verdict
          lines = verdict.conclusions.map(&:suspect)
          proven = verdict.conclusions.select(&:proven?)
          Row.new(
            kind: @kind,
            seed: @seed,
            truth:
              @car.truth.map do |place, trouble|
                "#{place} #{trouble.state} #{ohm_of(trouble)} #{trouble.duty.round(2)}"
              end,
            right: right?(verdict, lines),
            top: right_place?(lines.first),
            state: verdict.state,
            proven_wrong: proven.reject { |each| each.suspect.none? }.map { |each| right_place?(each.suspect) },
            nothing: lines.all?(&:none?) && verdict.proven?,
            module_wrong: proven.any? { |each| each.suspect.repair == "renew_module" && !right_place?(each.suspect) },
            beliefs: @beliefs,
            doubted: doubted,
            repeats: @log.map(&:first).tally.values.sum { |count| [count - 2, 0].max },
            slips: @car.slips.size,
            tests: @log.size,
            minutes: @minutes,
            said: verdict.conclusions.map { |each| "#{each.suspect.id} #{each.state} #{each.probability.round(3)}" },
            log: @log,
            scan: @scan
          ).freeze
        end

        def ohm_of(trouble)
          (trouble.hurt&.ohm || trouble.ohm)&.round(2)
        end

        def right?(verdict, lines)
          return false if verdict.state == "open"
          return lines.all?(&:none?) if @car.truth.empty?

          lines.all? { |suspect| right_place?(suspect) } &&
            @car.truth.keys.all? { |place| lines.any? { |suspect| mended(suspect).include?(place) } }
        end

        # True readings in doubt at the end.
        def doubted
          @assessment.weights.count do |weight|
            weight.outlier_chance > Diagnosis::Weight::OUTLIER_FROM && !@wrong[weight.observation.seq]
          end
        end
      end
    end
  end
end
