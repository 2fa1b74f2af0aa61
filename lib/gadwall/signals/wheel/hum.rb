# frozen_string_literal: true

module Gadwall
  module Signals
    # Takes the mains' hum out of a signal: the best-fitting sine of 50 and of 60 Hz (least squares), where one stands
    # out.
    module Hum
      FREQUENCIES = [50.0, 60.0].freeze
      LEAST_S = 0.2
      LEAST_SHARE = 0.003 # of the power, below which it harms nothing
      LEFT_SHARE = 0.03 # of the power, that may be left where it is all mains
      BESIDE = 3.0 # Hz: what stands here too is no line of the mains

      MOST_SAMPLES = 50_000 # of the capture, from which the line is computed

      # Returns the values, or new ones.
      def self.removed(time_s, values)
        return values if time_s.last - time_s.first < LEAST_S

        at = picked(values.size)
        times = time_s.values_at(*at)
        FREQUENCIES.reduce(values) { |now, frequency| without(time_s, now, frequency, times, now.values_at(*at)) }
      end

      # The frequency of the mains, where what is left without it is noise or has next to no power; or nil.
      # left: values without the mains; noise: is that noise?
      def self.all_of_it(time_s, values, left, noise:)
        at = picked(values.size)
        own = about_mean(values.values_at(*at))
        return unless noise || power(about_mean(left.values_at(*at))) < LEFT_SHARE * power(own)

        FREQUENCIES.max_by { |frequency| line(time_s.values_at(*at), own, frequency).sum { |part| part**2 } }
      end

      # Indices spread over the capture, not quite evenly: an even step could make teeth look like hum.
      def self.picked(size)
        step = [size / MOST_SAMPLES, 1].max
        (0...(size / step)).map { |k| (k * step) + ((k * 7) % step) }
      end

      def self.without(time_s, values, frequency, times, picked)
        centred = about_mean(picked)
        power = power(centred)
        return values if power.zero?

        cosine, sine = line(times, centred, frequency)
        own = ((cosine**2) + (sine**2)) / 2
        return values unless own > LEAST_SHARE * power

        beside =
          [-BESIDE, BESIDE].map { |offset| line(times, centred, frequency + offset).sum { |part| part**2 } / 2 }.max
        return values unless own > 6 * beside

        turn = 2 * Math::PI * frequency
        values.each_with_index.map do |value, i|
          value - (cosine * Math.cos(turn * time_s[i])) - (sine * Math.sin(turn * time_s[i]))
        end
      end

      def self.about_mean(values)
        mean = values.sum / values.size
        values.map { |value| value - mean }
      end

      def self.power(values)
        values.sum { |value| value * value } / values.size
      end

      # Amplitudes of cosine and sine at a frequency, of values about their mean.
      def self.line(times, values, frequency)
        turn = 2 * Math::PI * frequency
        cosine = sine = 0.0
        i = 0
        while i < values.size
          angle = turn * times[i]
          cosine += values[i] * Math.cos(angle)
          sine += values[i] * Math.sin(angle)
          i += 1
        end
        [2 * cosine / values.size, 2 * sine / values.size]
      end
      private_class_method :picked, :without, :about_mean, :power, :line
    end
  end
end
