# frozen_string_literal: true

module Gadwall
  module Signals
    # The gas of an accumulator from the curve of its first filling. Pressure jumps to that of the gas, then climbs as
    # the gas is pressed together. A pump that delivers evenly makes 1/p fall in a straight line (p V = constant,
    # absolute pressure; handbook: gas laws, from memory; with another exponent the line bends little between the knee
    # and where it was fitted). The knee is where the curve leaves the line.
    class AccumulatorFill
      ATMOSPHERE_BAR = Gas::ATMOSPHERE_BAR
      LEAST_POINTS = 6
      FITTED = 0.6 # of the time, the later part
      FITS = 0.06 # of 1/p

      # times, bars: of the filling, from empty to cut-out, Arrays; noise: sigma in bar.
      def initialize(times, bars, noise: 0.0)
        @times = times
        @bars = bars
        @noise = noise
      end

      # Bar as a gauge shows it, at least 0; nil where the curve is too short to tell.
      def precharge_bar
        return if @times.size < LEAST_POINTS || slope >= 0

        knee = @times.each_index.to_a.reverse.take_while { |i| on_line?(i) }.last
        knee && line(@times[knee]).positive? ? [(1 / line(@times[knee])) - ATMOSPHERE_BAR, 0.0].max : nil
      end

      private

      # 1 over the absolute pressure, on the line and as it was.
      def line(time)
        @offset + (@slope * time)
      end

      def inverse(i)
        1 / [@bars[i] + ATMOSPHERE_BAR, 0.5].max
      end

      # In 1/p, as pressure rushes up at the end where there is little gas.
      def on_line?(i)
        noise = 4 * @noise * (inverse(i)**2)
        (line(@times[i]) - inverse(i)).abs <= [FITS * inverse(i), noise].max + (FITS / 3 * line(@times.first).abs)
      end

      # Weighted by the square of the pressure: an error of one bar is worth less in 1/p the higher it is.
      def slope
        return @slope if @slope

        rows =
          @times
            .each_index
            .select { |i| @times[i] >= @times.last - (FITTED * (@times.last - @times.first)) }
            .map { |i| [@times[i], inverse(i), (@bars[i] + ATMOSPHERE_BAR)**2] }
        weight = rows.sum(&:last)
        mean_time = rows.sum { |time, _, w| w * time } / weight
        mean_inverse = rows.sum { |_, inverse, w| w * inverse } / weight
        spread = rows.sum { |time, _, w| w * ((time - mean_time)**2) }
        @slope =
          if spread.zero?
            0.0
          else
            rows.sum { |time, inverse, w| w * (time - mean_time) * (inverse - mean_inverse) } / spread
          end
        @offset = mean_inverse - (@slope * mean_time)
        @slope
      end
    end
  end
end
