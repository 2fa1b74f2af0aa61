# frozen_string_literal: true

module Gadwall
  module Scheduling
    # When a resource is taken: stretches in order, within its windows.
    class Timeline
      FOREVER = 1_000_000

      # windows: [[from, to], ...].
      def initialize(windows)
        @windows = windows.empty? ? [[0, FOREVER]] : windows
        @taken = []
      end

      # The first minute from `from` on at which so many minutes are free in one piece. A piece longer than every window
      # goes over the end of the last one.
      def earliest(from, minutes)
        window = @windows.find { |start, stop| [start, from].max + minutes <= stop }
        return after_hours(from, minutes) unless window

        start = [window[0], from].max
        free = gap(start, minutes)
        free + minutes <= window[1] ? free : later(window, from, minutes)
      end

      # Takes a stretch.
      def take(from, to)
        index = @taken.bsearch_index { |start, _| start >= from } || @taken.size
        @taken.insert(index, [from, to])
      end

      # Gives a stretch back.
      def release(from, to)
        @taken.delete([from, to])
      end

      private

      # From a start on, the first gap of that length, whatever the windows say.
      def gap(start, minutes)
        @taken.each do |from, to|
          return start if start + minutes <= from

          start = to if to > start
        end
        start
      end

      # In the next window that has room.
      def later(window, from, minutes)
        @windows.each do |start, stop|
          next if start <= window[0]

          free = gap([start, from].max, minutes)
          return free if free + minutes <= stop
        end
        after_hours(from, minutes)
      end

      # Overtime: from the end of the last window on, or where it would go over it.
      def after_hours(from, minutes)
        stop = @windows.last[1]
        begins = @windows.last[0]
        start = minutes > stop - begins ? begins : stop
        gap([from, start].max, minutes)
      end
    end
  end
end
