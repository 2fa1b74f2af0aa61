# frozen_string_literal: true

# The dip that a gap makes in the computed wheel speed, against a controller simulated window by window.
RSpec.describe Gadwall::Signals::LowSpeedDip do
  circumference = 1.99

  # Least speed over true speed that a controller reads, counting tooth periods window by window, at many phases.
  def simulated(km_h, gap:, teeth:, circumference_m:, window_s: 0.01)
    period = circumference_m * 3.6 / km_h / teeth
    (0...40)
      .map do |phase|
        at = phase * window_s / 40
        ends = (0..(3 * teeth)).map { |k| at += period * (k % teeth == 7 ? gap : 1) }
        held = 1.0
        (1..(ends.last / window_s).floor)
          .map do |window|
            inside = ends.each_cons(2).select { |_, later| later.between?((window - 1) * window_s, window * window_s) }
            held = inside.size * period / (inside.last[1] - inside.first[0]) unless inside.empty?
            held
          end
          .min
      end
      .min
  end

  # A window that catches one tooth fewer reads deeper; the model says what the fullest of the common windows reads.
  [4.0, 8.0, 12.0, 14.0].each do |km_h|
    it "reads what a counting controller reads at #{km_h} km/h, where one period at most ends in a window" do
      model = described_class.new(gap: 2.0, teeth: 48, circumference_m: circumference)
      expect(1 - model.dip(km_h)).to be_within(0.01).of(
        simulated(km_h, gap: 2.0, teeth: 48, circumference_m: circumference)
      )
    end
  end

  it "brackets a counting controller at higher speeds, where the phase decides" do
    [25.0, 40.0, 70.0].each do |km_h|
      seen = simulated(km_h, gap: 2.0, teeth: 48, circumference_m: circumference)
      model = 1 - described_class.new(gap: 2.0, teeth: 48, circumference_m: circumference).dip(km_h)
      expect(seen).to be <= model + 0.001
      expect(seen).to be >= 0.49
    end
  end

  it "WS: halves the speed where single periods are seen, n / (n + 1) of n (calc, handbook: measuring by periods, " \
       "from memory)" do
    model = described_class.new(gap: 2.0, teeth: 48, circumference_m: circumference)
    expect(model.dip(10)).to eq(0.5)
    speed = 4.5 / 0.01 / 48 * circumference * 3.6 # four and a half periods a window
    expect(1 - model.dip(speed)).to be_within(1e-9).of(4 / 5.0)
  end

  it "is taken for slip only at walking pace: from the least speed that counts to some 15 km/h (common practice: " \
       "'kicks back just before it stops')" do
    from, upto = described_class.new(gap: 2.0, teeth: 48, circumference_m: circumference).slip_range
    expect([from, upto]).to match([5.0, be_between(10, 20)])
  end

  it "follows its figures, and a small gap is never slip" do
    expect(described_class.new(gap: 1.1, teeth: 48, circumference_m: circumference).slip_range).to be_nil
    wider =
      described_class.new(
        gap: 2.0,
        teeth: 48,
        circumference_m: circumference,
        figures: {
          slip_lasts_s: 0.01
        }
      ).slip_range
    expect(wider.last).to be > described_class.new(gap: 2.0, teeth: 48, circumference_m: circumference).slip_range.last
  end

  it "refuses what no ring has, naming the field" do
    expect { described_class.new(gap: 2.0, teeth: 0, circumference_m: circumference) }.to raise_error(
      Gadwall::InputError,
      /teeth/
    )
    expect { described_class.new(gap: 2.0, teeth: 48, circumference_m: nil) }.to raise_error(
      Gadwall::InputError,
      /circumference_m/
    )
  end
end
