# frozen_string_literal: true

require "web_helper"

# An exercise on the screens of a real job: readings, decision, plan, set-up, proof, hand-over, and how it went.
RSpec.describe "Practice on the screens of a job", :web do
  let(:bay) { app.settings.practice }

  def begin_exercise(id)
    submit("/practice", "/practice", exercise: id)
    last_response.headers["location"][/P\d+/]
  end

  def dossier(number)
    bay.dossier(number)
  end

  def act(number, **values)
    record = dossier(number).record
    bay.stands.act(record, values.transform_keys(&:to_s), by: "L. Sandpiper", at: bay.now).last
  end

  def guards_of(page)
    get page
    hidden(
      Nokogiri.HTML5(last_response.body).css("form[method=post]").find { |each| each["action"].start_with?("/jobs/") }
    )
  end

  def trace(number)
    12.times do
      break if dossier(number).assessment.verdict.proven?

      option = dossier(number).assessment.next_tests.first
      post "/jobs/#{number}/bench/test", guards_of("/jobs/#{number}/trace?test=#{option.id}").merge("test" => option.id)
    end
    expect(dossier(number).assessment.verdict).to be_proven
  end

  def decide(number)
    option = dossier(number).options.choices.find(&:recommended).id
    form = guards_of("/jobs/#{number}/decide")
    post "/jobs/#{number}/decide", form.merge("option" => option, "signed_by" => "E. Marram", "words" => "Do it.")
    expect(dossier(number)).to be_decided
  end

  def sign_all(number, rows)
    60.times do
      row = dossier(number).plan.public_send(rows).find { |each| !each.done? } or return
      if row.step.wait_minutes && !row.waiting?
        bay.perform(number, Gadwall::Job::Acts::BeginWait, { step: row.id }, by: "x", at: bay.now - 86_400) { "/" }
      end
      given = Demo::SignOff.values(row.step)
      fields = { "state" => "done", "tool" => given[:tool], "figures" => given[:figures], "ticks" => given[:ticks] }
      post "/jobs/#{number}/repair/#{row.id}", guards_of("/jobs/#{number}/repair").merge(fields)
      expect(last_response.status).to eq(303), "#{row.id}: #{text[0, 400]}"
    end
  end

  it "is worked to the end by the composed plan: what is signed is done on the vehicle, and the score says so" do
    number = begin_exercise("dead-coil")
    submit("/jobs/#{number}/codes", "/jobs/#{number}/interface/read")
    %w[chock lift stands].each { |kind| act(number, kind: kind) }
    trace(number)
    act(number, kind: "lower")
    decide(number)
    sign_all(number, :repair)
    stand = bay.stands.of(dossier(number).record)
    expect([stand.vehicle.wiring.hidden.size, stand.wrong]).to eq([0, []])
    act(number, kind: "clear")
    act(number, kind: "drive")
    post "/jobs/#{number}/interface/read", guards_of("/jobs/#{number}/proof")
    expect(dossier(number).log.of("scan").last.data["phase"]).to eq("after")
    sign_all(number, :proof)
    form = guards_of("/jobs/#{number}/proof")
    post "/jobs/#{number}/proof/drive", form.merge("read" => "1")
    post "/jobs/#{number}/handover", guards_of("/jobs/#{number}/proof").merge("words" => "")
    stand = bay.stands.of(dossier(number).record)
    act(number, kind: "finish") unless stand.ended
    get "/jobs/#{number}/debrief"
    expect(text).to include("The advised way").and match(/of 100.*tests \d+ min, advised \d+ ·/)
    expect(bay.stands.of(dossier(number).record)).to be_right
    expect(workshop.summaries.open.map(&:name)).not_to include("Orchard pick-up, rust")
  end

  it "shows no advice unless a hint is bought, and sells it for this moment only" do
    number = begin_exercise("dead-coil")
    submit("/jobs/#{number}/codes", "/jobs/#{number}/interface/read")
    get "/jobs/#{number}/trace"
    expect(last_response.body).not_to include("suspect-list")
    post "/jobs/#{number}/hint", guards_of("/jobs/#{number}/trace")
    get "/jobs/#{number}/trace"
    expect(last_response.body).to include("suspect-list")
    expect(bay.stands.of(dossier(number).record).hints).to eq(1)
  end

  it "refuses on the bench what cannot be, at its place, and goes on" do
    number = begin_exercise("dead-coil")
    form = guards_of("/jobs/#{number}/bench")
    post "/jobs/#{number}/bench", form.merge("kind" => "stands")
    expect([last_response.status, text]).to match([422, /Lift it first/])
    post "/jobs/#{number}/bench", guards_of("/jobs/#{number}/bench").merge("kind" => "chock")
    expect([last_response.status, text]).to match([200, /Wheels chocked/])
  end
end
