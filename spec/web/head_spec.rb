# frozen_string_literal: true

require "web_helper"

# What stands over every page of a job is written with its last entry: pages beside the diagnosis take none.
RSpec.describe "The head of a job's pages", :web do
  # The job read back from the database alone.
  def read_again(number)
    workshop.loader.forget
    workshop.dossier(number)
  end

  def as_computed(dossier)
    Gadwall::Job::Head.of(Gadwall::Job::Dossier.new(dossier.record, dossier.log, shop: dossier.shop))
  end

  def shown_of(number)
    read_again(number).head.to_h.slice(:stage, :decidable, :off_road)
  end

  it "is what a diagnosis would say, for every job of the demo" do
    Demo::Workshop.load(workshop)
    numbers = workshop.jobs.all.map(&:number)
    heads = numbers.to_h { |number| [number, read_again(number).head] }
    expect(heads).to eq(numbers.to_h { |number| [number, as_computed(workshop.dossier(number))] })
    expect(heads.values.map(&:stage).uniq.size).to be > 4
    expect(heads.values.map(&:off_road)).to include(be_empty, be_any)
  end

  it "follows each act" do
    number = job
    expect(shown_of(number)).to eq(stage: "codes", decidable: false, off_road: [])
    submit("/jobs/#{number}/codes", "/jobs/#{number}/codes", codes: "C0031-13 current", answered: "yes")
    expect(shown_of(number)).to eq(stage: "trace", decidable: false, off_road: [])
    perform(number, Gadwall::Job::Acts::NoteLamps, lit: %w[red_brake])
    expect(read_again(number).head.off_road).not_to be_empty
  end

  it "opens the vehicle sheet, the pads and the captures without a diagnosis" do
    number = job(codes: "C0031-13 current")
    allow(Gadwall::Diagnosis).to receive(:assess).and_raise("a diagnosis")
    %w[vehicle pads captures].each do |page|
      workshop.loader.forget
      get "/jobs/#{number}/#{page}"
      expect([page, last_response.status]).to eq([page, 200])
    end
  end

  it "is computed where an engine of another version wrote it" do
    number = job(codes: "C0031-13 current")
    allow(Gadwall::Diagnosis).to receive(:engine).and_return("another")
    dossier = read_again(number)
    expect(workshop.summaries.head(dossier.record, dossier.last_seq, "another")).to be_nil
    expect(dossier.head.stage).to eq("trace")
  end
end
