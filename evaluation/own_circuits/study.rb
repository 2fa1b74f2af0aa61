# frozen_string_literal: true

module Gadwall
  module Evaluation
    module OwnCircuits
      # Seeded runs over invented vehicles with hidden faults of every family: how often the right repair is found,
      # after how many tests and minutes, whether the probabilities mean what they say, whether a sound module is ever
      # condemned.
      class Study
        # Sheets that between them have every circuit of data/circuits.
        VEHICLES = Training::Drawn::VEHICLES

        # One run. right: was the right repair found; p: of the verdict; condemned: was a sound module called proven;
        # beliefs: [[probability of a leader on the way, was it right], ...]; weight: how often such a vehicle comes in,
        # against one with the same circuits at fault in an average place (every place is drawn alike).
        Row =
          Struct.new(
            :vehicle,
            :family,
            :truths,
            :right,
            :p,
            :state,
            :tests,
            :minutes,
            :condemned,
            :said,
            :beliefs,
            :weight,
            keyword_init: true
          )

        NOISE = 0.03
        BOTCHED = 0.02
        SCANS = 500 # tries to see a fault in a scan
        LEAST_CODE = 0.3 # a fault that hardly any monitor sees brings no vehicle in

        def initialize(models = Vehicle::ModelCache.new)
          @systems =
            VEHICLES.transform_values do |sheet|
              Vehicle::System.build(Vehicle::Sheet.new({ "name" => "study" }.merge(sheet)), models: models)
            end
        end

        attr_reader :systems

        # Single faults of every family: [[vehicle, [id]], ...], every place of each kind of circuit once, the mode that
        # comes next in turn.
        def singles
          seen = {}
          systems.flat_map do |name, system|
            system
              .circuits
              .reject { |circuit| seen[circuit.harness.id] }
              .flat_map do |circuit|
                seen[circuit.harness.id] = true
                by_place(circuit).each_with_index.map do |faults, turn|
                  [name, ["#{circuit.id}.#{faults[turn % faults.size].id}"]]
                end
              end
          end
        end

        # Pairs of faults in different circuits of one vehicle, any of its circuits. A fault that hides the other (no
        # power, no codes) is left out: the second then shows in the scan after the first repair. So is a pair that no
        # scan shows, for no vehicle comes in with it.
        def pairs(count, random)
          names = systems.keys
          Array.new(count) do |i|
            name = names[i % names.size]
            loop do
              truths = pair(systems[name], random)
              break name, truths if comes_in?(systems[name], truths)
            end
          end
        end

        # Returns a Row. The vehicle came in with a warning, so its first scan holds a code or somebody is missing.
        def run(name, truths, seed, strategy: "advised", most: 15 * truths.size)
          system = systems.fetch(name)
          random = Random.new(seed)
          vehicle, scan = taken_in(system, truths, random)
          raise Error, "#{truths.join(" and ")}: no scan shows it" unless scan

          told = { scan: scan, symptoms: symptoms(vehicle), lamps: vehicle.lamps(Random.new(seed)) }
          result = Run.diagnose(system, vehicle, **told, most: most, strategy: strategy)
          row(name, system, vehicle, truths, result)
        end

        private

        def pair(system, random)
          two_circuits(system, random).map do |circuit|
            "#{circuit.id}.#{by_place(circuit).sample(random: random).sample(random: random).id}"
          end
        end

        def comes_in?(system, truths)
          !taken_in(system, truths, Random.new(1)).nil?
        end

        def two_circuits(system, random)
          loop do
            pair = system.circuits.reject { |circuit| by_place(circuit).empty? }.sample(2, random: random)
            return pair unless hides?(*pair) || hides?(*pair.reverse)
          end
        end

        def hides?(circuit, other)
          circuit.powers? &&
            (circuit.module == other.module || other.harness.modules.any? { |id, _| id == circuit.module })
        end

        # Faults that can be seen and are there often enough, by place.
        def by_place(circuit)
          monitors = circuit.model.monitors
          seen =
            circuit.model.faults.select.with_index do |_, k|
              circuit.model.atoms.each_index.any? do |i|
                circuit.model.atoms[i].fault_index == k && (monitors.of_atom(i).values.max || 0.0) >= LEAST_CODE
              end
            end
          seen.group_by(&:place).values
        end

        def taken_in(system, truths, random)
          SCANS.times do
            vehicle =
              SimulatedVehicle.new(
                system,
                truth: truths,
                random: random,
                presence: presence(system, truths, random),
                noise: NOISE,
                gross_error: BOTCHED
              )
            scan = vehicle.scan
            return vehicle, scan if shown?(system, truths, scan)
          end
          nil
        end

        # Is there a code of each fault's circuit, or a module that does not respond for it?
        def shown?(system, truths, scan)
          circuits = truths.map { |id| system.fault(id).first }
          silent = scan.answered.reject { |_, answered| answered }.keys
          powered = circuits.select(&:powers?).map(&:module)
          circuits.all? do |circuit|
            scan.codes.any? { |code| code.circuit_id == circuit.id } ||
              (circuit.powers? && silent.include?(circuit.module)) ||
              circuit.harness.modules.map(&:first).intersect?(silent - powered)
          end
        end

        # One in three of those that come and go, comes and goes.
        def presence(system, truths, random)
          truths.size == 1 && system.fault(truths.first).last.intermittent > 0.3 && random.rand < 0.33 ? 0.4 : 1.0
        end

        def symptoms(vehicle)
          vehicle.hidden.any? { |each| each.presence < 1.0 } ? ["comes_and_goes"] : []
        end

        def row(name, system, vehicle, truths, result)
          Row.new(
            vehicle: name,
            family: system.fault(truths.first).first.family,
            truths: truths,
            right: right?(result.verdict, vehicle),
            p: result.verdict.probability,
            state: result.verdict.state,
            tests: result.tests.size,
            minutes: result.minutes,
            condemned: condemned?(result.verdict, vehicle),
            weight: truths.reduce(1.0) { |product, id| product * frequency(system, id) },
            beliefs: result.beliefs.map { |p, suspect| [p, vehicle.hidden.any? { |each| mends?(suspect, each) }] },
            said:
              result
                .verdict
                .conclusions
                .map { |line| "#{line.suspect.id} #{line.state} #{line.probability.round(2)}" }
                .join("; ")
          ).freeze
        end

        # How often its place is to blame, against an average place of the circuit.
        def frequency(system, id)
          circuit, fault = system.fault(id)
          rates = by_place(circuit).to_h { |faults| [faults.first.place, faults.sum(&:rate)] }
          rates.fetch(fault.place) * rates.size / rates.values.sum
        end

        # Every hidden fault is in a line of investigation that is at least likely and would mend its place; and nothing
        # else is mended.
        def right?(verdict, vehicle)
          return false if verdict.state == "open"

          lines = verdict.conclusions.map(&:suspect)
          vehicle.hidden.all? { |each| lines.any? { |suspect| mends?(suspect, each) } } &&
            lines.all? { |suspect| vehicle.hidden.any? { |each| mends?(suspect, each) } }
        end

        def mends?(suspect, hidden)
          return false if suspect.none?
          return true if suspect.places.include?("#{hidden.circuit.id}/#{hidden.fault.place}")
          if suspect.cause
            return(
              suspect.members.any? do |circuit, fault|
                circuit.id == hidden.circuit.id && fault.place == hidden.fault.place
              end
            )
          end

          suspect.repair == "renew_module" && hidden.fault.repair == "renew_module" &&
            suspect.circuit.module == hidden.circuit.module
        end

        def condemned?(verdict, vehicle)
          verdict.conclusions.any? do |line|
            line.proven? && line.suspect.repair == "renew_module" &&
              vehicle.hidden.none? { |each| mends?(line.suspect, each) }
          end
        end
      end
    end
  end
end
