# frozen_string_literal: true

# Vehicles by other hands (evaluation/vehicles): circuits, values, codes and slips that share nothing with ours; always
# the advised test, until proven or fifteen. The whole study is bin/study --foreign; its table is in docs/engine.md.
RSpec.describe Gadwall::Evaluation::OtherHands::Study, :simulation do
  rows = nil
  before(:context) do
    study = described_class.new(CoreHelp::MODELS)
    rows = Array.new(50) { |i| study.run(7000 + i) }
  end

  let(:table) { Gadwall::Evaluation::OtherHands::StudyTable.new(rows) }
  let(:faulty) { rows.reject { |row| row.kind == "nothing wrong" } }

  def share(list, &)
    list.count(&) / list.size.to_f
  end

  it "says what it found" do
    table.figures.each { |name, value| RSpec.configuration.reporter.message("  #{name}: #{value}") }
    expect(rows.map(&:kind).uniq.size).to be >= 8
  end

  it "is seldom wrong where it says proven, and never condemns a sound module" do
    expect(table.wrong_share).to be <= 0.04
    expect(rows.count(&:module_wrong)).to eq(0)
  end

  it "has the right place on top, every fault found and no wrong line" do
    expect(share(faulty, &:top)).to be >= 0.9
    expect(share(rows, &:right)).to be >= 0.82
  end

  it "concludes that nothing is wrong where nothing is" do
    none = rows.select { |row| row.kind == "nothing wrong" }
    expect(share(none, &:nothing)).to be >= 0.75
    expect(none.map(&:tests).sort[none.size / 2]).to be <= 12 # of twelve runs; 9 of the forty of the whole study
  end

  it "asks for no test again that brings nothing new, and doubts few true readings" do
    expect(rows.sum(&:repeats)).to eq(0)
    expect(share(rows) { |row| row.doubted.positive? }).to be <= 0.06
  end

  it "means what it says above 0.95" do
    given = rows.flat_map(&:beliefs).select { |p, _| p >= 0.95 }
    expect(share(given, &:last)).to be >= (given.sum(&:first) / given.size) - 0.04
  end
end
