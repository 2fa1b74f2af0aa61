# frozen_string_literal: true

module Gadwall
  module Tests
    # A test whose result is seen, not measured: a lamp, a bulb, a live value, a motor that turns or not. Its record
    # lists rules, the first that holds gives the outcome; none holds: "good".
    #
    # A rule holds by what stands in the solved harness ({"volts": [a, b], "below": 4} or ohms, amperes; `ratio_above`,
    # `ratio_below` against the sound harness, as a twin would show it), by a sign of the condition ({"observable":
    # stalled}, with * for any), by the fault itself ({"fault": "motor.*"}), or by several of these at once. `state`
    # adds to the state of the test; `share` says how often a rule holds that would hold.
    class Watch
      TWIN_SIGMA = 0.05 # common practice: twins of one axle agree within some 10 percent

      def initialize(harness, predictor)
        @harness = harness
        @predictor = predictor
        @probes = {}.compare_by_identity
        @cached = {}
        rest
      end

      # Lets go of what was only needed for computing.
      def rest
        @windows = {}.compare_by_identity
      end

      # Returns a Prediction::Choice.
      def predict(test, condition, fault = nil)
        spread(test, outcomes_by_rule(test, condition, fault))
      end

      # {outcome => chance}, of an eye that misses nothing.
      def outcomes_by_rule(test, condition, fault)
        left = 1.0
        chances = Hash.new(0.0)
        test.record["rules"].each do |rule|
          next if left < 1e-9

          chance = holds(test, rule, condition, fault)
          chances[rule["outcome"]] += left * chance
          left *= 1 - chance
        end
        chances["good"] += left
        chances
      end

      # A fault that comes and goes, watched for a while: it shows as dropping out where the test can tell. A test may
      # tell more than that (`dropping_out`): which trace falls meanwhile. Then only what it names is also told as
      # dropping out, half of the time.
      def caught(test, fault)
        told = test.record["dropping_out"]
        return spread(test, "dropouts" => 1.0) if test.outcomes.key?("dropouts") && told.nil?

        condition = Circuits::Effect.condition(@harness, fault, fault.middle_severity)
        return predict(test, condition, fault) unless told

        chances = outcomes_by_rule(test, condition, fault)
        spread(test, chances.merge(told => chances[told] / 2, "dropouts" => chances[told] / 2))
      end

      # Chance (0..1) that a rule holds under a condition.
      def holds(test, rule, condition, fault)
        return 0.0 if rule["observable"] && !sign?(Array(rule["observable"]), condition)
        return 0.0 if rule["fault"] && !fault&.named?(rule["fault"])

        (rule["share"] || 1.0) * (measured?(rule) ? window(test, rule, condition) : 1.0)
      end

      private

      def sign?(wanted, condition)
        condition.observables.any? { |sign| wanted.any? { |pattern| File.fnmatch(pattern, sign) } }
      end

      def measured?(rule)
        rule["volts"] || rule["ohms"] || rule["amperes"]
      end

      def window(test, rule, condition)
        probe = probe(test, rule)
        prediction = @predictor.number(probe, condition)
        kept = (@windows[rule] ||= {}.compare_by_identity)
        kept[prediction] ||= window_of(probe, rule, prediction)
      end

      def window_of(probe, rule, prediction)
        scale = @predictor.scale(probe)
        limits(rule, probe).reduce(1.0) do |chance, (limit, above, sigma)|
          at = scale.of(limit)
          chance * share(prediction, sigma, at, above)
        end
      end

      def share(prediction, sigma, limit, above)
        sum = 0.0
        prediction.each_hump { |mean, own, weight| sum += weight * side(mean, sigma || own, limit, above) }
        sum
      end

      # [[limit, above?, sigma or nil], ...]
      def limits(rule, probe)
        factor = rule["volts"] ? @harness.limit_factor(absolute: rule["absolute"]) : 1
        plain = [[rule["above"]&.*(factor), true, nil], [rule["below"]&.*(factor), false, nil]]
        if rule["ratio_above"] || rule["ratio_below"]
          sound = @predictor.scale(probe).back(@predictor.number(probe, Circuits::Condition::SOUND).mean)
          plain += [
            [rule["ratio_above"]&.*(sound), true, TWIN_SIGMA],
            [rule["ratio_below"]&.*(sound), false, TWIN_SIGMA]
          ]
        end
        plain.select(&:first)
      end

      def side(mean, sigma, limit, above)
        upper = 0.5 * Math.erfc((limit - mean) / (sigma * 1.4142135623730951))
        above ? upper : 1 - upper
      end

      def probe(test, rule)
        (@probes[rule] ||= {})[test.id] ||= begin
          kind = %w[volts ohms amperes].find { |name| rule[name] }
          Test.new(
            id: "rule",
            kind: kind,
            state: test.state.with(rule["state"] || {}),
            probes: rule[kind],
            record: {
            }
          ).freeze
        end
      end

      # Outcomes missed now and then.
      def spread(test, chances)
        hit = test.record["hit"]
        miss = (1 - hit) / (test.outcomes.size - 1)
        rounded = test.outcomes.to_h { |id, _| [id, ((chances[id] || 0.0) * (hit - miss)) + miss] }
        @cached[[test.id, rounded.transform_values { |chance| chance.round(6) }]] ||= Prediction::Choice.new(rounded)
      end
    end
  end
end
