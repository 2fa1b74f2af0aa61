# frozen_string_literal: true

require "web_helper"

# The hybrid of the demo done wrongly on purpose at every hold of its plan: skipped, out of its turn, out of its limits,
# without its ticks, its tool, its wait. Each time it is stopped, with the reason, and nothing is written.
RSpec.describe "A plan done wrongly at every hold", :web do
  include Signing

  # The job as it was decided, nothing signed yet.
  let(:number) do
    file = File.join(Demo::Workshop::JOBS, "14_reed_hybrid_pressure_unit.yml")
    data = YAML.safe_load_file(file)
    data["entries"] = data["entries"].reject { |entry| entry["kind"] == "sign" }
    Demo::Workshop.new(workshop, workshop.now).send(:job, data)
    workshop.jobs.all.first.number
  end

  # The form's answer: status and what it says. Nothing may be written.
  def refused(number, step, **fields)
    before = workshop.dossier(number).last_seq
    submit("/jobs/#{number}/repair?step=#{step.id}", "/jobs/#{number}/repair/#{step.id}", **fields)
    expect([step.id, workshop.dossier(number).last_seq]).to eq([step.id, before])
    expect([step.id, last_response.status]).to eq([step.id, 422])
    text
  end

  def out_of_limits(step)
    step.asks.each do |ask|
      beyond = ask["sound"] == "above" ? ask["low"] / 3.0 : ask["high"] * 3
      wrong = Demo::SignOff.values(step)[:figures].merge(ask["id"] => beyond.to_s)
      expect(refused(number, step, **step_fields(step), figures: wrong)).to include(ask["label"]).and include("Enter")
    end
  end

  def too_early(rows, index)
    later = rows.drop(index + 1).find { |row| row.step.hold } or return
    submit_directly(later.step)
    expect([later.id, last_response.status, text]).to match(
      [later.id, 422, /Sign '.*' first: this step opens after it/]
    )
  end

  # A step that is shut has no form on its page: posted all the same.
  def submit_directly(step)
    at_hand = workshop.dossier(number).plan.next_row.id
    page = "/jobs/#{number}/repair?step=#{at_hand}"
    post "/jobs/#{number}/repair/#{step.id}",
         guards(page, "/jobs/#{number}/repair/#{at_hand}").merge(step_fields(step).transform_keys(&:to_s))
  end

  it "is stopped with the reason, hold by hold, and goes through when it is done right" do
    rows = workshop.dossier(number).plan.repair
    expect(rows.count { |row| row.step.hold }).to be > 25
    stopped = 0
    rows.each_with_index do |row, index|
      sign_until(number, row.id)
      step = workshop.dossier(number).plan.row(row.id).step
      next if workshop.dossier(number).plan.row(row.id).done?
      next unless step.hold

      too_early(rows, index)
      wait_first(step) if step.wait_minutes
      out_of_limits(step)
      if (step.ticks + step.conditions).any?
        expect(refused(number, step, **step_fields(step), ticks: [])).to include("a tick at")
      end
      expect(refused(number, step, **step_fields(step), tool: "")).to include("Enter which tool ran it") if step.set_up?
      left_out(step)
      stopped += 1
    end
    expect(stopped).to be > 20
    sign_until(number)
    expect(workshop.dossier(number).plan).to be_done
  end

  def wait_first(step)
    expect(refused(number, step, **step_fields(step))).to include("start the timer first")
    begin_wait(number, workshop.dossier(number).plan.row(step.id))
  end

  def left_out(step)
    return unless step.protects

    done = perform(number, Gadwall::Job::Acts::SkipStep, step: step.id, reason: "in a hurry")
    expect([step.id, done.errors.values.join]).to match([step.id, /protects people/])
  end
end
