# frozen_string_literal: true

# Wheel-speed signals from the geometry of a ring: teeth as bumps of flux at their angles, the voltage of a coil as the
# change of flux in time, the level of an active sensor as which side of the middle the flux is on. Nothing of the
# analysis is used.
class ToneRing
  # angle_teeth: centres, in units of a normal pitch; heights: by tooth; broad: flat-topped teeth with narrow gaps
  # between them.
  def initialize(
    count,
    missing: [],
    split: nil,
    low: {},
    runout: 0.0,
    unevenness: 0.0,
    broad: false,
    random: Random.new(1)
  )
    @count = count
    @broad = broad
    open_by = split ? split[1] - 1 : 0.0
    @turn = count + open_by
    centres = (0...count).map { |k| k + (split && k > split[0] ? open_by : 0.0) + (unevenness * (random.rand - 0.5)) }
    @teeth =
      (0...count)
        .reject { |k| missing.include?(k) }
        .map { |k| [centres[k], (low[k] || 1.0) * (1 + (runout / 2 * Math.cos(2 * Math::PI * k / count)))] }
  end

  attr_reader :turn, :count

  # Flux and its change at an angle, in pitches: between two points of a fine table, worked out as far as the ring is
  # turned. 200 points a pitch err by less than 1e-3 of the largest change, far under any noise.
  def flux(angle)
    cell, part = ((angle % @turn) * POINTS).divmod(1)
    before, after = (@table ||= {}).values_at(cell, cell + 1)
    before ||= @table[cell] = exact(cell.to_f / POINTS)
    after ||= @table[cell + 1] = exact((cell + 1).to_f / POINTS)
    [before[0] + (part * (after[0] - before[0])), before[1] + (part * (after[1] - before[1]))]
  end

  POINTS = 200

  def exact(at)
    value = slope = 0.0
    near(at).each do |centre, height|
      x = (at - centre) / WIDTH
      bump = height * (@broad ? 1 / (1 + (x**4)) : Math.exp(-x * x))
      value += bump
      slope += (@broad ? bump * -4 * (x**3) / (1 + (x**4)) : bump * -2 * x) / WIDTH
    end
    [value, slope]
  end

  WIDTH = 0.32

  def near(at)
    @sorted ||= @teeth.sort
    @by_cell ||=
      Hash.new do |cells, cell|
        cells[cell] = @sorted
          .flat_map { |centre, height| [-@turn, 0, @turn].map { |shift| [centre + shift, height] } }
          .select { |centre, _| (centre - cell).abs < 2.8 }
      end
    @by_cell[at.floor]
  end

  # speed: ->(seconds) turns a second. Returns [times, volts].
  def passive(speed, seconds, rate, volt: 0.5, noise: 0.0, random: Random.new(1), start: 0.0)
    sample(speed, seconds, rate, start) do |angle, turns|
      (volt * turns * flux(angle)[1] / 4.2) + (noise * gauss(random))
    end
  end

  def active(speed, seconds, rate, low: 0.8, high: 1.6, noise: 0.0, random: Random.new(1), start: 0.0)
    sample(speed, seconds, rate, start) { |angle, _| (flux(angle)[0] > 0.45 ? high : low) + (noise * gauss(random)) }
  end

  private

  def sample(speed, seconds, rate, start)
    angle = start
    times = []
    values = []
    (0...(seconds * rate).to_i).each do |i|
      time = i / rate.to_f
      turns = speed.call(time)
      times << time
      values << yield(angle, turns)
      angle += turns * @turn / rate
    end
    [times, values]
  end

  def gauss(random)
    Math.sqrt(-2 * Math.log(1 - random.rand)) * Math.cos(2 * Math::PI * random.rand)
  end
end
