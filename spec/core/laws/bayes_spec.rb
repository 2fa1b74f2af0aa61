# frozen_string_literal: true

RSpec.describe Gadwall::Diagnosis::Information do
  # BA-01, BA-03, BA-04, BA-07: handbook: Eddy's screening example, Bayes' rule, information theory; from memory.
  let(:priors) { { sensor: 0.45, harness: 0.25, ring: 0.20, module: 0.10 } }
  let(:likelihoods) { { sensor: 0.05, harness: 0.90, ring: 0.05, module: 0.10 } }

  it "BA-01 answers the screening example" do
    posterior = described_class.posterior({ ill: 0.01, well: 0.99 }, { ill: 0.8, well: 0.096 })
    expect(posterior[:ill]).to be_within(5e-5).of(0.0776)
  end

  it "BA-02 leaves a module at a coin toss after one internal code" do
    expect(
      described_class.posterior({ module: 0.05, other: 0.95 }, { module: 20.0, other: 1.0 })[:module]
    ).to be_within(5e-5).of(0.5128)
  end

  it "BA-03 and BA-07 follow the signal from plug to plug" do
    after = described_class.posterior(priors, likelihoods)
    expect(after.values.map { |p| p.round(4) }).to eq([0.0841, 0.8411, 0.0374, 0.0374])
    wiggled = described_class.posterior(after, { sensor: 0.10, harness: 0.70, ring: 0.05, module: 0.05 })
    expect(wiggled.values.map { |p| p.round(4) }).to eq([0.0140, 0.9798, 0.0031, 0.0031])
  end

  it "BA-04 values the test at 0.4875 bit" do
    expect(described_class.entropy(priors.values)).to be_within(5e-5).of(1.8150)
    expect(described_class.entropy(described_class.posterior(priors, likelihoods).values)).to be_within(5e-5).of(0.8649)
    rows = priors.map { |name, prior| [prior * likelihoods[name], prior * (1 - likelihoods[name])] }
    expect(described_class.mutual(rows)).to be_within(5e-5).of(0.4875)
  end
end
