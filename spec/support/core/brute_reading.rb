# frozen_string_literal: true

# How likely one reading is with one fault there, for BruteForce: in plain loops, straight from the predictions.
class BruteReading
  Effect = Gadwall::Circuits::Effect
  Number = Gadwall::Tests::Prediction::Number
  IN_THE_WAY = %w[series far_end_open].freeze
  BESIDE = %w[to_ground to_supply between across far_end_across].freeze

  # observation: Gadwall::Observations::Observation; catalogue: for the numbers of the model.
  def initialize(observation, catalogue)
    @test = observation.test
    @result = observation.result
    @circuit = observation.circuit
    @predictor = @circuit.model.predictor
    @catalogue = catalogue
    @humps = {}
  end

  def sound
    @sound ||= @predictor.predict(@test, Gadwall::Circuits::Condition::SOUND).density(@result)
  end

  # With a fault of this severity that is there so often.
  def with(fault, severity, presence)
    return there(fault, severity) if presence == 1.0 || @test.kind == "table"
    return @predictor.caught(@test, fault).density(@result) if @test.kind == "wiggle"
    return (presence * there(fault, severity)) + ((1 - presence) * away(fault, severity)) unless @test.window?

    met = 1 - ((1 - presence)**@catalogue.model("window_looks"))
    (met * (@predictor.caught(@test, fault)&.density(@result) || sound)) + ((1 - met) * sound)
  end

  private

  def there(fault, severity)
    @test.numeric? ? contact(fault, severity) : choices(fault, severity)
  end

  # What is left to measure of a fault that is away, now and then: less of the same in the same spot, as its severities
  # are spread; of what is no matter of ohms, nothing.
  def away(fault, severity)
    less = severity.is_a?(Numeric) ? lesser(fault, severity) : []
    return sound if less.empty?

    left = less.sum { |each, value, weight| weight * there(each, value) } / less.sum(&:last)
    share = @catalogue.model("residue")
    ((1 - share) * sound) + (share * left)
  end

  def lesser(fault, severity)
    kinds = [IN_THE_WAY, *BESIDE.map { |effect| [effect] }].find { |each| each.include?(fault.effect) } or return []
    spread = alike(fault, kinds).select { |_, value, _| value.is_a?(Numeric) }
    spread.select { |_, value, _| kinds == IN_THE_WAY ? value < severity : value > severity }
  end

  # Every severity of the faults of these effects in the same spot: [[fault, severity, weight], ...].
  def alike(fault, kinds)
    same =
      @circuit.model.faults.select do |each|
        kinds.include?(each.effect) && each.place == fault.place && each.target == fault.target
      end
    same.flat_map { |each| each.severities.map { |value, share| [each, value, share * each.rate] } }
  end

  # A rotten contact is another one now and then: its share of all severities in series at the same place and wires.
  def contact(fault, severity)
    own = number(fault, severity)
    return own unless fault.effect == "series"

    states = alike(fault, ["series"])
    return own if states.size < 2

    mean = states.sum { |each, value, weight| weight * number(each, value) } / states.sum(&:last)
    wander = @circuit.model.wander
    ((1 - wander) * own) + (wander * mean)
  end

  # The chance of an outcome with this fault: an eighth of it as one severity further up, an eighth as one further down.
  def choices(fault, severity)
    all = fault.severities.map(&:first)
    own = ->(value) { predict(fault, value).density(@result) }
    return own.call(severity) unless severity.is_a?(Numeric)

    k = all.index(severity)
    beside = [all[[k - 1, 0].max], all[[k + 1, all.size - 1].min]]
    (0.75 * own.call(severity)) + beside.sum { |value| 0.125 * own.call(value) }
  end

  # The density of a number with this fault: every hump widened over its cell of severities.
  def number(fault, severity)
    all = (@humps[fault.id] ||= fault.severities.map { |each, _| predict(fault, each).humps })
    k = fault.severities.map(&:first).index(severity)
    low = [k - 1, 0].max
    high = [k + 1, all.size - 1].min
    same = all.uniq.size == 1 || !severity.is_a?(Numeric)
    humps =
      all[k].each_with_index.map do |(mean, sigma, weight), n|
        width = same || high == low ? 0.0 : (all[high][n][0] - all[low][n][0]).abs / (high - low)
        [mean, Math.sqrt((sigma**2) + ((width**2) / 12)), weight]
      end
    Number.new(humps, @predictor.scale(@test)).density(@result)
  end

  def predict(fault, severity)
    @predictor.predict(@test, Effect.condition(@circuit.harness, fault, severity), fault)
  end
end
