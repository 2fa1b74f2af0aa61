# frozen_string_literal: true

require "web_helper"

RSpec.describe "Demo workshop", :web do
  before { Demo::Workshop.load(workshop) }

  let(:numbers) { workshop.jobs.all.map(&:number) }
  let(:dossiers) { numbers.map { |number| workshop.dossier(number) } }

  it "shows one job finished, several with one test left, two unrelated faults and one common cause" do
    expect(dossiers.size).to eq(16)
    expect(dossiers.count(&:handed_over?)).to eq(2)
    expect(dossiers.map { |dossier| dossier.stage.id }.uniq).to match_array(%w[codes trace decide repair proof report])
    expect(dossiers.count { |dossier| dossier.stage.id == "trace" && one_test_left?(dossier) }).to be >= 2
    expect(workshop.dossier("J109").assessment.verdict.conclusions.map(&:state)).to eq(%w[proven proven])
    expect(workshop.dossier("J110").assessment.verdict.suspect.id).to eq("shared.module_plug_of_abs.wet")
    (
      %w[/ /jobs/closed] +
        numbers.flat_map { |each| %w[trace decide repair proof report].map { |page| "/jobs/#{each}/#{page}" } }
    ).each { |path| expect([path, get(path).status]).to eq([path, 200]) }
  end

  # The recommended test, with one of the results most expected, proves it.
  def one_test_left?(dossier)
    @assessed = dossier.assessment
    option = @assessed.next_tests.first
    option
      .outcomes
      .first(2)
      .any? do |outcome|
        typed = option.test.numeric? ? in_region(option, outcome.index) : option.test.outcomes.keys[outcome.index]
        entry = Gadwall::Job::Entries::Finding.new("test" => option.id, "result" => typed.to_s, "kind" => "finding")
        Gadwall::Diagnosis.assess(dossier.system, dossier.log.with([entry]).body).verdict.proven?
      end
  end

  def in_region(option, index)
    table = @assessed.posterior.table(option.circuit, option.test)
    %w[OL 0 0.05 0.2 0.5 1 5 12 100 1k 5k 50k 500k 5M 7m 14m].find do |typed|
      table.outcome_index(Gadwall::Quantity::ReadingText.parse(typed, unit: option.test.unit)) == index
    rescue Gadwall::InputError
      false
    end
  end
end
