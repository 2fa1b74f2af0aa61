# frozen_string_literal: true

require "benchmark"

# Figures of speed, one a line: "name: value unit (limit L) ok" or "... short".
class Figures
  def initialize(out = $stdout)
    @out = out
    @short = []
  end

  # Names of the figures that were beyond their limits.
  attr_reader :short

  # Median of `times` runs in milliseconds; the best of three such medians, as a shared machine stalls now and then.
  def median(name, limit_ms, times: 20, &block)
    yield
    best =
      Array
        .new(3) do
          GC.start
          Array.new(times) { Benchmark.realtime(&block) * 1000 }.sort[times / 2]
        end
        .min
    tell(name, best, limit_ms, "ms")
  end

  # One figure. digits: shown after the point; note: further words.
  def tell(name, value, limit, unit, digits: 1, note: nil)
    beyond = value > limit
    @short << name if beyond
    shown = format("%.#{digits}f", value)
    say("#{name}: #{shown} #{unit} (limit #{limit}) #{beyond ? "short" : "ok"}#{" #{note}" if note}")
  end

  # What must hold and is no figure.
  def hold(name, sound)
    @short << name unless sound
    say("#{name}: #{sound ? "ok" : "short"}")
  end

  def say(line)
    @out.puts line
    @out.flush
  end

  # The value below which 95 of 100 are.
  def self.p95(values)
    values.sort[(values.size * 0.95).ceil - 1]
  end
end
