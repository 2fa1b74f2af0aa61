# frozen_string_literal: true

require_relative "brute_reading"

# The posterior by brute force, written apart from the engine: plain loops over faults, severities and presences, and
# over every set of circuits, straight from the predictions. For systems of up to three circuits and evidence without
# codes.
class BruteForce
  Circuits = Gadwall::Circuits

  # beam: {circuit id => [[fault id, fault id], ...]}, the pairs in one circuit that the engine tries; what they weigh
  # is worked out here.
  def initialize(system, observations, catalogue, beam)
    @system = system
    @observations = observations
    @catalogue = catalogue
    @beam = beam
    @prior = system.circuits.sum { |circuit| atoms(circuit).sum(&:prior) }
    @second = catalogue.model("second_fault") / @prior
  end

  # id: of a suspect, as the assessment names it.
  def probability(id)
    return none / total if id == "none"
    return shared.fetch(id) / total if id.start_with?("shared.")

    names = id.split(" + ").map { |name| name.split(".", 2) }
    return pair(names) / total if names.size == 2 && names[0][0] == names[1][0]

    weights = names.map { |circuit_id, fault_id| fault_weight(circuit_id, fault_id, alone: names.size == 1) }
    weights.reduce(:*) * (@second**(names.size - 1)) / total
  end

  private

  Atom = Struct.new(:fault, :severity, :presence, :prior, :told, :off)

  def none
    share = @catalogue.model("none_share")
    @prior * share / (1 - share)
  end

  def mine(circuit)
    @observations.select { |each| each.circuit.id == circuit.id }
  end

  # Every fault of a circuit at every severity and presence.
  def atoms(circuit)
    (@atoms ||= {})[circuit.id] ||= circuit.model.faults.flat_map do |fault|
      fault
        .severities
        .product(presences(fault))
        .map do |(severity, share), (presence, belief)|
          atom(circuit, fault, severity, presence, fault.rate * share * belief)
        end
    end
  end

  def atom(circuit, fault, severity, presence, rate)
    told = mine(circuit).reduce(1.0) { |product, each| product * ratio(fault, severity, presence, each) }
    Atom.new(
      fault,
      severity,
      presence,
      rate * lamp(circuit, fault, severity, presence),
      told,
      cut_off(circuit, fault, severity) * presence
    )
  end

  def presences(fault)
    comes = @catalogue.model("presences")
    [[1.0, 1 - fault.intermittent], *comes.map { |presence| [presence, fault.intermittent / comes.size] }]
  end

  # The chance that this fault lights a lamp, and so brings the vehicle in.
  def lamp(circuit, fault, severity, presence)
    model = circuit.model
    index = model.atoms.index { |atom| atom.fault.equal?(fault) && atom.severity == severity }
    chance = model.monitors.of_atom(index).slice(*model.monitors.claims).values.max
    drops = circuit.harness.template["monitors"].filter_map { |rule| rule.dig("signal", "dropouts") }.max || 0.0
    chance = [chance, drops].max * 0.9 if presence < 1.0 && chance.positive?
    0.02 + (0.98 * chance)
  end

  # 1 where this fault leaves the module without power.
  def cut_off(circuit, fault, severity)
    return 0.0 unless circuit.id == "abs_module"
    return 1.0 if fault.mode == "dead"

    @power ||= Circuits::Reader.new(circuit.harness, Circuits::Harness::State.of(key: "on"))
    if @power.read(
         "volts",
         %w[feed@far_end ground_wire@far_end],
         Circuits::Effect.condition(circuit.harness, fault, severity)
       ) < 9.0
      1.0
    else
      0.0
    end
  end

  # What the other circuits show with their module dead, against what they show when sound.
  def dead
    @dead ||=
      @observations
        .reject { |each| each.circuit.id == "abs_module" }
        .reduce(1.0) do |product, each|
          predictor = each.circuit.model.predictor
          conditions = [Circuits::Effect.unpowered(each.circuit.harness), Circuits::Condition::SOUND]
          off, on =
            conditions.map { |condition| mixed(predictor.predict(each.test, condition).density(each.result), each) }
          product * off / on
        end
  end

  def ratio(fault, severity, presence, observation)
    reading = (@readings ||= {})[observation] ||= BruteReading.new(observation, @catalogue)
    mixed(reading.with(fault, severity, presence), observation) / mixed(reading.sound, observation)
  end

  def mixed(density, observation)
    slack =
      if observation.test.numeric?
        observation.circuit.model.predictor.scale(observation.test).gross_error_density(observation.result)
      else
        1.0 / observation.test.outcomes.size
      end
    error = @catalogue.model(%w[table wiggle].include?(observation.test.kind) ? "gross_error_seen" : "gross_error")
    ((1 - error) * density) + (error * slack)
  end

  # Sets: a fault that takes the module its power stands alone; any others stand together.
  def total
    @total ||=
      none + (together(@system.circuits) / @second) + cut_off_weight +
        shared.sum { |id, weight| weight * (1 + together(untouched(id))) }
  end

  # Sum over all non-empty sets of circuits, each with a fault or two in it, of what they weigh.
  def together(circuits)
    (1..circuits.size).sum do |n|
      circuits.combination(n).sum { |set| set.reduce(1.0) { |product, circuit| product * @second * in_one(circuit) } }
    end
  end

  def in_one(circuit)
    (@in_one ||= {})[circuit.id] ||= atoms(circuit).sum { |atom| atom.prior * atom.told * (1 - atom.off) } +
      pairs(circuit).values.sum
  end

  def cut_off_weight
    @cut_off_weight ||=
      @system.circuits.sum { |circuit| atoms(circuit).sum { |atom| atom.prior * atom.told * atom.off } } * dead
  end

  def fault_weight(circuit_id, fault_id, alone:)
    own = atoms(@system.circuit_named(circuit_id)).select { |atom| atom.fault.id == fault_id }
    on = own.sum { |atom| atom.prior * atom.told * (1 - atom.off) }
    alone ? on + (own.sum { |atom| atom.prior * atom.told * atom.off } * dead) : on
  end

  # Two faults of one circuit, solved together: {[fault id, fault id] => weight}.
  def pairs(circuit)
    (@pairs ||= {})[circuit.id] ||= @beam
      .fetch(circuit.id, [])
      .to_h do |names|
        first, second = names.map { |fault, severity| always(circuit, fault, severity) }
        [names.map(&:first).sort, first.prior * second.prior * @second * both(circuit, first, second)]
      end
  end

  def always(circuit, fault, severity)
    atoms(circuit).find { |atom| atom.presence == 1.0 && atom.fault.id == fault && atom.severity == severity }
  end

  def both(circuit, first, second)
    mine(circuit).reduce(1.0) do |product, each|
      product * mixed(both_density(circuit, first, second, each), each) /
        mixed(circuit.model.predictor.predict(each.test, Circuits::Condition::SOUND).density(each.result), each)
    end
  end

  def both_density(circuit, first, second, observation)
    predictor = circuit.model.predictor
    conditions = [first, second].map { |atom| Circuits::Effect.condition(circuit.harness, atom.fault, atom.severity) }
    if %w[table wiggle].include?(observation.test.kind)
      seen =
        [first, second].zip(conditions)
          .map { |atom, condition| predictor.predict(observation.test, condition, atom.fault) }
      return seen.min_by { |prediction| prediction.density("good") }.density(observation.result)
    end
    together = ->(pair) { solved_together(circuit, pair, observation.test) }
    shown = together.call([[first.fault, first.severity], [second.fault, second.severity]])
    return shown.density(observation.result) unless observation.test.numeric?

    further = [
      [[first.fault, step(first)], [second.fault, second.severity]],
      [[first.fault, first.severity], [second.fault, step(second)]]
    ]
    humps =
      shown.humps.each_with_index.map do |(mean, sigma, weight), n|
        widths = further.map { |pair| ((together.call(pair).humps.fetch(n, [mean])[0] - mean)**2) / 12 }
        [mean, Math.sqrt((sigma**2) + widths.sum), weight]
      end
    Gadwall::Tests::Prediction::Number.new(humps, predictor.scale(observation.test)).density(observation.result)
  end

  # What a test shows with some faults at some severities; what it has put something sound in place of takes no part.
  def solved_together(circuit, pair, test)
    predictor = circuit.model.predictor
    left = pair.select { |fault, _| predictor.takes_part?(test, fault) }
    conditions = left.map { |fault, severity| Circuits::Effect.condition(circuit.harness, fault, severity) }
    predictor.predict(test, conditions.sum(Circuits::Condition.new), left.first&.first)
  end

  # One severity further, or one less from the last.
  def step(atom)
    all = atom.fault.severities.map(&:first)
    return atom.severity unless atom.severity.is_a?(Numeric) && all.size > 1

    k = all.index(atom.severity)
    all[k + 1] || all[k - 1]
  end

  def pair(names)
    pairs(@system.circuit_named(names[0][0])).fetch(names.map(&:last).sort)
  end

  # {id => weight} of causes that reach at least two circuits, by every subset of those that they may reach.
  def shared
    @shared ||=
      @system.shared.to_h do |cause|
        weight =
          (2..cause.members.size).sum do |n|
            cause
              .members
              .combination(n)
              .sum do |hit|
                (cause.reach**n) * ((1 - cause.reach)**(cause.members.size - n)) *
                  hit.reduce(1.0) { |product, (circuit, faults)| product * told(circuit, faults) }
              end
          end
        [cause.id, cause.rate * weight]
      end
  end

  # What the readings say of some faults of a circuit together, weighed by their priors.
  def told(circuit, faults)
    own = atoms(circuit).select { |atom| faults.include?(circuit.model.faults.index(atom.fault)) }
    own.sum { |atom| atom.prior * atom.told } / own.sum(&:prior)
  end

  def untouched(cause_id)
    touched = @system.shared.find { |cause| cause.id == cause_id }.members.map { |circuit, _| circuit.id }
    @system.circuits.reject { |circuit| touched.include?(circuit.id) }
  end
end
