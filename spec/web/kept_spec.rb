# frozen_string_literal: true

require "web_helper"

# What was entered is kept: where others wrote meanwhile, and where a form's token comes again with other content.
RSpec.describe "What was entered", :web do
  # Forms whose page shows one field, by where they stand and go, and what is typed.
  {
    "a note" => ["report", "notes", { words: "hose looks old" }],
    "a promise" => ["report", "promise", { promised: "2026-12-03T09:30" }],
    "a reason for no scan" => ["codes", "codes/skip", { reason: "the tool is away" }],
    "answers of the sheet" => ["vehicle", "/vehicle", { brake_switch: "two", park_brake: "caliper_motor" }]
  }.each do |title, (page, action, fields)|
    it "is kept where another browser saved first: #{title}" do
      number = job
      form_action = form_of(number, page, action)
      next skip("no such form") unless form_action

      form = guards("/jobs/#{number}/#{page}", form_action)
      perform(number, Gadwall::Job::Acts::AddNote, words: "meanwhile")
      before = entries(number).size
      post form_action, form.merge(fields.transform_keys(&:to_s))
      expect([last_response.status, text]).to match([409, /Another browser saved.*What you entered/])
      fields.each_value { |typed| expect(last_response.body).to include(typed) }
      expect(entries(number).size).to eq(before)
      again = hidden(Nokogiri.HTML5(last_response.body).at_css("form[action='#{form_action}']"))
      post form_action, again
      expect([title, last_response.status]).to eq([title, 303])
      expect(workshop.dossier(number).last_seq).to be >= before
    end
  end

  it "is refused with its text where the form's token was taken with other content" do
    number = job
    form = guards("/jobs/#{number}/report", "/jobs/#{number}/notes")
    post "/jobs/#{number}/notes", form.merge("words" => "first")
    post "/jobs/#{number}/notes", form.merge("words" => "first")
    expect(last_response.status).to eq(303)
    post "/jobs/#{number}/notes", form.merge("words" => "second")
    expect([last_response.status, text]).to match([409, /sent before with other content.*second/])
    expect(entries(number).count { |entry| entry.kind == "note" }).to eq(1)
    again = hidden(Nokogiri.HTML5(last_response.body).at_css("form[action='/jobs/#{number}/notes']"))
    post "/jobs/#{number}/notes", again.merge("seen" => workshop.dossier(number).last_seq.to_s)
    expect(last_response.status).to eq(303)
    expect(
      entries(number).select { |entry| entry.kind == "note" }.map { |entry| entry["text"] || entry["words"] }
    ).to eq(%w[first second])
  end

  it "is refused with its text where a check-in's token comes with another vehicle" do
    sign_in
    form = guards("/jobs/new", "/jobs").merge(WebHelp::CHECK_IN.transform_keys(&:to_s))
    post "/jobs", form
    post "/jobs", form.merge("name" => "Another van")
    expect([last_response.status, text]).to match([409, /other content.*Another van/])
    expect(workshop.jobs.all.size).to eq(1)
  end

  def form_of(number, page, action)
    get "/jobs/#{number}/#{page}"
    Nokogiri
      .HTML5(last_response.body)
      .css("form")
      .filter_map { |form| form["action"] }
      .find { |each| each.end_with?(action) }
  end
end

# A signature has a letter; what cannot be seen is no name (Unicode general categories, from memory).
RSpec.describe "Names", :web do
  nobody = ["   ", ".", "\u200B", "\u202E", "\u00A0\u2003", "--", "123", "\u2066\u2069"]

  it "are not taken from nobody: at the bench and at check-in" do
    nobody.each do |name|
      get "/"
      form = Nokogiri.HTML5(last_response.body).at_css("form[action='/person']")
      post "/person", hidden(form).merge("name" => name)
      expect([name, last_response.status]).to eq([name, 422])
    end
    sign_in
    form = guards("/jobs/new", "/jobs").merge(WebHelp::CHECK_IN.transform_keys(&:to_s))
    nobody.each { |name| post("/jobs", form.merge("customer" => name)) && expect(last_response.status).to(eq(422)) }
  end

  it "are trimmed and composed" do
    number = job(customer: "\u200B  Rene\u0301 O\u2019Dell\u00A0")
    expect(workshop.dossier(number).record.customer).to eq("Ren\u00E9 O\u2019Dell")
  end

  it "are asked of who authorises and who releases" do
    expect([".", " \u200E", "7"].map { |name| Gadwall::Signature.of(name) }).to eq([nil, nil, nil])
    rules = Gadwall::Repair::RuleBase.of(Gadwall::Knowledge.catalogue)
    step =
      Gadwall::Repair::Step.of(
        rules["hv_back"],
        Gadwall::Repair::WordList.new([]),
        Gadwall::Knowledge.catalogue,
        sheet: Gadwall::Vehicle::Sheet.new({})
      )
    expect { step.entered({ "released_by" => ". \u200B" }) }.to raise_error(Gadwall::InputError, /with letters/)
    expect(step.entered({ "released_by" => " O. Fennel\u200B" })["released_by"]).to eq("O. Fennel")
  end
end
