# frozen_string_literal: true

module Gadwall
  module Signals
    # Takes the mains' hum out of a signal: the best-fitting sine of 50 and of 60 Hz (least squares), where one stands out and is not
    # the signal itself.
    module Hum
      FREQUENCIES = [50.0, 60.0].freeze
      LEAST_S = 0.2
      LEAST_SHARE = 0.03 # of the power, below which it harms nothing
      MOST_SHARE = 0.6   # of the power, above which it is the wheel itself
      BESIDE = 3.0       # Hz: what stands here too is no line of the mains

      # Returns the values, or new ones.
      def self.removed(time_s, values)
        return values if time_s.last - time_s.first < LEAST_S

        FREQUENCIES.reduce(values) { |now, frequency| without(time_s, now, frequency) }
      end

      def self.without(time_s, values, frequency)
        step = [values.size / 200_000, 1].max
        mean = values.sum / values.size
        power = sampled(values, step).sum { |value| (value - mean)**2 } / (values.size / step.to_f)
        return values if power.zero?

        cosine, sine = line(time_s, values, frequency, mean, step)
        own = ((cosine**2) + (sine**2)) / 2
        beside = [-BESIDE, BESIDE].map { |offset| line(time_s, values, frequency + offset, mean, step).sum { |part| part**2 } / 2 }.max
        return values unless own > LEAST_SHARE * power && own < MOST_SHARE * power && own > 6 * beside

        turn = 2 * Math::PI * frequency
        values.each_with_index.map { |value, i| value - (cosine * Math.cos(turn * time_s[i])) - (sine * Math.sin(turn * time_s[i])) }
      end

      def self.sampled(values, step)
        step == 1 ? values : values.each_slice(step).map(&:first)
      end

      # Amplitudes of cosine and sine at a frequency.
      def self.line(time_s, values, frequency, mean, step)
        turn = 2 * Math::PI * frequency
        cosine = sine = 0.0
        count = 0
        i = 0
        while i < values.size
          angle = turn * time_s[i]
          cosine += (values[i] - mean) * Math.cos(angle)
          sine += (values[i] - mean) * Math.sin(angle)
          count += 1
          i += step
        end
        [2 * cosine / count, 2 * sine / count]
      end
      private_class_method :without, :sampled, :line
    end
  end
end
