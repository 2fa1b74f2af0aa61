# frozen_string_literal: true

require "spec_helper"

# Pads and discs: linings, differences with their cause, distance left with what is not known of it.
RSpec.describe Gadwall::Pads do
  def sheet(corners, **more)
    described_class::Sheet.new({ "corners" => corners }.merge(more.transform_keys(&:to_s)))
  end

  def even(inner: 14.0, outer: 14.0)
    described_class::Sheet::CORNERS.to_h { |corner| [corner, { "inner" => inner, "outer" => outer }] }
  end

  def judge(sheet, **more)
    described_class::Judgement.new(sheet, **more)
  end

  # reference values PD-01 to PD-03, common practice: 16.2 on the gauge is 11.2 of lining, 9.5 is 4.5.
  it "takes the backing plate off: 16.2 mm on the gauge are 11.2 of lining" do
    expect(sheet({ "front_left" => { "inner" => 16.2 } }).lining("front_left", "inner")).to eq(11.2)
  end

  it "says 9000 km, and 5625 to 12857 with a gauge of half a millimetre (4.5 mm left of 12 after 45 000 km, limit 3)" do
    left = judge(sheet({ "front_left" => { "inner" => 9.5 } }, distance: 45_000.0)).left.fetch("front_left")
    expect([left.left, left.low, left.high, left.worn]).to eq([9000, 5625, 12_857, 0.1667])
  end

  it "says 82 000 km where 0.8 mm went in 8000 (11.2 mm left)" do
    left = judge(sheet({ "front_left" => { "inner" => 16.2 } }, distance: 8000.0)).left.fetch("front_left")
    expect([left.left, left.worn]).to eq([82_000, 0.1])
  end

  it "reckons from the vehicle's earlier visit where there is one, and tells since when" do
    before = sheet({ "front_left" => { "inner" => 13.0 } }, distance: 60_000.0)
    now = sheet({ "front_left" => { "inner" => 11.0 } }, distance: 70_000.0)
    left = judge(now, earlier: [before]).left.fetch("front_left")
    expect([left.worn, left.left, left.from]).to eq([0.2, 15_000, "since 60000 km"])
  end

  cases = {
    "seized slide: the inner pad is thin" => [
      { "front_left" => { "inner" => 8.0, "outer" => 13.0 } },
      %w[inner_thin side_thin]
    ],
    "seized piston: the outer pad is thin" => [
      { "rear_right" => { "inner" => 13.0, "outer" => 9.0 } },
      %w[outer_thin side_thin]
    ],
    "one side does more" => [{ "front_right" => { "inner" => 10.0, "outer" => 10.0 } }, ["side_thin"]],
    "even all round" => [{}, []]
  }
  cases.each do |name, (change, rules)|
    it "tells #{name}" do
      corners = even.merge(change)
      found = judge(sheet(corners)).findings.map(&:rule)
      expect(found - ["park_brake"]).to match_array(rules)
      expect(judge(sheet(corners)).findings.map(&:cause)).to all(match(/\w{4}/))
    end
  end

  it "suspects the park brake where rear pads wear before front ones, and reads discs against their limits" do
    corners =
      even.merge("rear_left" => { "inner" => 9.0, "outer" => 9.0 }, "rear_right" => { "inner" => 9.0, "outer" => 9.0 })
    discs = { "front_left" => { "thickness" => 21.8, "least" => 22.0, "variation" => 0.02, "runout" => 0.1 } }
    found = judge(sheet(corners, discs: discs)).findings.map(&:rule)
    expect(found).to contain_exactly("park_brake", "disc_thin", "disc_variation", "disc_runout")
  end

  it "is mirrored: left and right exchanged, the findings exchange (law, seeded)" do
    random = Random.new(5)
    mirror = ->(id) { id.end_with?("left") ? id.sub("left", "right") : id.sub("right", "left") }
    30.times do
      corners =
        described_class::Sheet::CORNERS.to_h do |id|
          [id, { "inner" => random.rand(6.0..17.0).round(1), "outer" => random.rand(6.0..17.0).round(1) }]
        end
      one = judge(sheet(corners)).findings.map { |row| [row.rule, row.corner] }
      other = judge(sheet(corners.transform_keys(&mirror))).findings.map { |row| [row.rule, mirror.call(row.corner)] }
      sides = [one, other].map { |rows| rows.select { |rule, _| rule.end_with?("thin") } }
      expect(sides.first).to match_array(sides.last)
    end
  end

  it "goes less far the thinner the pad, and its range holds the middle (law, seeded)" do
    random = Random.new(6)
    lefts =
      Array
        .new(40) { random.rand(8.1..16.4).round(1) }
        .sort
        .map do |reading|
          judge(sheet({ "front_left" => { "inner" => reading } }, distance: 30_000.0)).left.fetch("front_left")
        end
    expect(lefts.map(&:left)).to eq(lefts.map(&:left).sort)
    expect(lefts).to all(satisfy { |row| row.low <= row.left && (row.high.nil? || row.left <= row.high) })
  end

  wrong = {
    "corners.front_left.inner" => {
      "corners" => {
        "front_left" => {
          "inner" => "thick"
        }
      }
    },
    "corners" => {
      "distance" => "50000"
    },
    "distance" => {
      "corners" => {
        "front_left" => {
          "inner" => "9"
        }
      },
      "distance" => "-1"
    },
    "front.backing" => {
      "corners" => {
        "front_left" => {
          "inner" => "9"
        }
      },
      "front" => {
        "backing" => "50"
      }
    }
  }
  wrong.each do |field, typed|
    it "names the field #{field} of what cannot be" do
      _, errors = described_class::Sheet.typed(typed)
      expect(errors.keys).to eq([field])
    end
  end
end
