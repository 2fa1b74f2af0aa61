# frozen_string_literal: true

# Hidden faults of every family on five invented vehicles, always doing the recommended test, 3 percent noise, 2 percent
# of the measurements gross_error. The whole study, with other strategies beside it, is bin/study; its tables are in
# docs/engine.md.
RSpec.describe Gadwall::Evaluation::OwnCircuits::Study, :simulation do
  study = nil
  before(:context) { study = described_class.new(CoreHelp::MODELS) }

  def say(text)
    RSpec.configuration.reporter.message("  #{text}")
  end

  it "covers every kind of circuit with at least sixty faults" do
    kinds = study.systems.values.flat_map { |system| system.circuits.map { |circuit| circuit.harness.id } }.uniq
    expect(kinds).to match_array(catalogue.circuits.keys)
    expect(study.singles.size).to be >= 60
    expect(study.singles.map { |name, ids| study.systems[name].fault(ids.first).first.harness.id }.uniq).to match_array(
      kinds
    )
  end

  it "finds the right repair for 91 in 100 single faults and 75 in 100 pairs, condemns no sound module, and means " \
       "its probabilities" do
    # One of six, for the time it takes; bin/study runs them all.
    some = study.singles.select.with_index { |_, i| (i % 6).zero? }
    singles = some.each_with_index.map { |(name, truths), i| study.run(name, truths, 7000 + i) }
    pairs =
      study.pairs(20, Random.new(11)).each_with_index.map { |(name, truths), i| study.run(name, truths, 9000 + i) }
    table = Gadwall::Evaluation::OwnCircuits::StudyTable
    say(
      "#{singles.size} single faults: " \
        "#{(table.right(singles) * 100).round(1)} % right (as they come in " \
        "#{(table.right_as_they_come(singles) * 100).round(1)} %); " \
        "#{pairs.size} pairs: #{(table.right(pairs) * 100).round(1)} % right"
    )
    bands = table.reliability(singles + pairs)
    bands.each do |from, to, count, mean, right|
      say("leader at #{from} to #{[to, 1.0].min}: #{count} times, mean #{mean.round(3)}, right #{right.round(3)}")
    end
    expect(table.right(singles)).to be >= 0.91 # every place drawn alike, however rare
    expect(table.right_as_they_come(singles)).to be >= 0.93
    expect(table.right(pairs)).to be >= 0.75 # of these 20, where one is 5 points; bin/study draws sixty
    expect((singles + pairs).count(&:condemned)).to eq(0)
    # By band a few dozen runs are too few to tell; bin/study draws more.
    sure = bands.select { |from, _| from.between?(0.85, 0.95) }
    mean, right = [3, 4].map { |column| sure.sum { |band| band[2] * band[column] } / sure.sum { |band| band[2] } }
    expect(right).to be_within(0.06).of(mean)
  end

  it "beats the textbook's order and the cheapest test first, in what it finds and in minutes" do
    some = study.singles.each_slice(60).map(&:first)
    by_strategy =
      %w[advised textbook cheapest].to_h do |strategy|
        [
          strategy,
          some.each_with_index.map { |(name, truths), i| study.run(name, truths, 500 + i, strategy: strategy) }
        ]
      end
    by_strategy.each do |strategy, rows|
      say(
        "#{strategy}: #{rows.count(&:right)} of #{rows.size} right, #{rows.sum(&:minutes) / rows.size} min on average"
      )
    end
    others = by_strategy.values.drop(1)
    expect(others).to all(satisfy { |rows| rows.count(&:right) < by_strategy["advised"].count(&:right) })
    expect(others).to all(satisfy { |rows| rows.sum(&:minutes) > by_strategy["advised"].sum(&:minutes) })
  end
end
