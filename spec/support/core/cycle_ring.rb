# frozen_string_literal: true

# Wheel-speed signals cut from cycles: from each edge of a tooth to the next lies one cycle, of a sine or with two
# levels. A second way beside ToneRing, with other shapes and other gaps, so that the analysis is not right for one
# shape only.
class CycleRing
  # missing: cells without a cycle; stretched: with, the cell before takes their room; gap: [cell, width]; low: {cell =>
  # height};
  # depth: of the amplitude once a turn.
  def initialize(count, missing: [], stretched: false, gap: nil, low: {}, depth: 0.0)
    @count = count
    @missing = stretched ? [] : missing
    @low = low
    @depth = depth
    @cells = cells(stretched ? missing : [], gap)
    @starts = @cells.map(&:first)
    @turn = @cells.last[1]
  end

  # speed: ->(seconds) turns a second; shape: ->(share of a cycle) from -1 to 1. Returns [times, volts].
  def passive(
    speed,
    seconds,
    rate,
    volt: 0.8,
    noise: 0.004,
    random: Random.new(1),
    shape: ->(share) { Math.sin(2 * Math::PI * share) }
  )
    sample(speed, seconds, rate) do |cell, share, turns|
      signal =
        if @missing.include?(cell)
          0.0
        else
          shape.call(share) * (@low[cell] || 1.0) * (1 + (@depth / 2 * Math.cos(2 * Math::PI * cell / @count)))
        end
      (volt * turns * signal) + (noise * gauss(random))
    end
  end

  # rest: the level where a tooth is missing.
  def active(speed, seconds, rate, low: 0.8, high: 1.6, rest: :low, noise: 0.02, random: Random.new(1))
    sample(speed, seconds, rate) do |cell, share, _|
      up = @missing.include?(cell) ? rest == :high : share < 0.5
      (up ? high : low) + (noise * gauss(random))
    end
  end

  private

  # [[from, to, cell], ...] in pitches.
  def cells(swallowed, gap)
    at = 0.0
    all = (0...@count).map { |cell| [at, at += gap && gap[0] == cell ? gap[1] : 1.0, cell] }
    swallowed.each { |cell| all[cell - 1][1] = all[cell][1] }
    all.reject { |_, _, cell| swallowed.include?(cell) }
  end

  def sample(speed, seconds, rate)
    angle = 0.3
    times = Array.new((seconds * rate).to_i) { |i| i / rate.to_f }
    [
      times,
      times.map do |time|
        turns = speed.call(time)
        at = angle % @turn
        from, upto, cell = @cells[(@starts.bsearch_index { |start| start > at } || @starts.size) - 1]
        angle += turns * @turn / rate
        yield cell, (at - from) / (upto - from), turns
      end
    ]
  end

  def gauss(random)
    Math.sqrt(-2 * Math.log(1 - random.rand)) * Math.cos(2 * Math::PI * random.rand)
  end
end
