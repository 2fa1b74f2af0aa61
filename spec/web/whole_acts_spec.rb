# frozen_string_literal: true

require "web_helper"
require_relative "../support/web/capture_files"

# An act is written whole or not at all: where the second write of one fails (as where the process is killed between
# them), the first is not there either.
RSpec.describe "Acts of several writes", :web do
  class Killed < StandardError
  end

  def practice
    app.practice
  end

  def counts(workshop)
    database = workshop.instance_variable_get(:@database)
    %i[jobs entries stands stand_acts form_tokens code_words live_columns].to_h { |name| [name, database[name].count] }
  end

  # Sends a form whose second write is killed, and says what was written all the same.
  def killed(workshop, store, write, path, fields)
    before = counts(workshop)
    allow(store).to receive(write).and_raise(Killed)
    post path, fields
    expect(last_response.status).to eq(500)
    RSpec::Mocks.space.proxy_for(store).reset
    written = counts(workshop).reject { |name, count| before[name] == count }
    [written, last_response.status]
  end

  def exercise
    sign_in
    post "/practice", guards("/practice", "/practice").merge("exercise" => "dead-coil")
    last_response.location[/P\d+/]
  end

  it "begins an exercise whole" do
    sign_in
    form = guards("/practice", "/practice").merge("exercise" => "dead-coil")
    store = practice.stands.instance_variable_get(:@store)
    expect(killed(practice, store, :connect, "/practice", form).first).to eq({})
    post "/practice", form
    expect(last_response.status).to eq(303)
  end

  it "does nothing on the vehicle that is not kept" do
    number = exercise
    store = practice.stands.instance_variable_get(:@store)
    form = guards("/jobs/#{number}/codes", "/jobs/#{number}/codes")
    post "/jobs/#{number}/bench", form.merge("kind" => "key", "to" => "on", "form_token" => "a" * 32)
    before = counts(practice)
    allow(store).to receive(:add).and_raise(Killed)
    post "/jobs/#{number}/bench", form.merge("kind" => "key", "to" => "off", "form_token" => "b" * 32)
    expect([last_response.status, counts(practice)]).to eq([500, before])
  end

  it "keeps a code's word with the correction, or neither" do
    number = job(codes: "5DF1 current")
    form = guards("/jobs/#{number}/codes", "/jobs/#{number}/codes/correct")
    fields = form.merge("circuit" => "front_left", "claim" => "open")
    expect(killed(workshop, workshop.code_words, :save, "/jobs/#{number}/codes/correct", fields).first).to eq({})
    post "/jobs/#{number}/codes/correct", fields
    expect(last_response.status).to eq(303)
    expect(workshop.dossier(number).log.of("scan").last.codes.first["circuit"]).to eq("front_left")
  end

  it "runs a routine with its record, or neither" do
    workshop.mark_demo(by: "spec")
    number = job(codes: "C0031-13 current")
    record = workshop.dossier(number).record
    exercise = Gadwall::Training::Drawn.for_sheet(record.vehicle, 2, id: number)
    workshop.stands.connect(record, exercise, by: "x", at: workshop.now)
    form = guards("/jobs/#{number}/trace", "/person").merge("form_token" => "c" * 32, "id" => "park_brake_service")
    before = counts(workshop)
    post "/jobs/#{number}/interface/routine", form
    expect([last_response.status, text, counts(workshop)]).to match([422, /No repair is authorised/, before])
    expect(workshop.stands.of(record).done).to eq([])
  end
end

RSpec.describe "Three clicks on one form", :web do
  it "do what the form does once on the vehicle" do
    sign_in
    post "/practice", guards("/practice", "/practice").merge("exercise" => "dead-coil")
    number = last_response.location[/P\d+/]
    form = guards("/jobs/#{number}/codes", "/jobs/#{number}/codes").merge("form_token" => "d" * 32)
    done = -> { app.practice.stands.of(app.practice.dossier(number).record).done.size }
    3.times { post "/jobs/#{number}/hint", form }
    expect(done.call).to eq(1)
    3.times { post "/jobs/#{number}/interface/clear", form.merge("form_token" => "e" * 32) }
    expect(done.call).to eq(2)
  end
end
