# frozen_string_literal: true

require "web_helper"

# Who is at the bench; and a session that is lost keeps what was typed.
RSpec.describe "Person and session", :web do
  let(:fields) do
    { "name" => "Weir van", "customer" => "A", "complaint" => "lamp", "front" => "active", "rear" => "active" }
  end

  it "asks once for a browser, shows the name on every page, and changes it with one touch" do
    get "/"
    expect(text).to include("Who is at the bench?")
    sign_in("I. Sallow")
    get "/jobs/new"
    expect(text).to include("I. Sallow")
    sign_in("N. Ashgrove")
    get "/"
    names = Nokogiri.HTML5(last_response.body).css(".person button[name=name]").map { |each| each["value"] }
    expect(names).to eq(["I. Sallow"])
    post "/person",
         hidden(Nokogiri.HTML5(last_response.body).at_css(".person form")).merge(
           "name" => names.first,
           "back" => "/jobs/new"
         )
    expect(last_response.location).to eq("/jobs/new")
    post "/person", guards("/person", "/person").merge("name" => " ")
    expect([last_response.status, text]).to match([422, /Enter your name/])
  end

  it "goes on to no page of another site" do
    get "/"
    form = hidden(Nokogiri.HTML5(last_response.body).at_css("form[action='/person']"))
    ["//evil.example", "https://evil.example", "/\\evil.example", "javascript:alert(1)"].each do |back|
      post "/person", form.merge("name" => "A", "back" => back)
      expect(last_response.location).to eq("/")
    end
  end

  it "keeps a form that came without a name, and takes it with the name in one touch" do
    post "/jobs", guards("/jobs/new", "/jobs").merge(fields)
    expect([last_response.status, text]).to match([422, /Every entry carries a name.*Weir van/])
    form = Nokogiri.HTML5(last_response.body).at_css("main form")
    post form["action"], hidden(form).merge("person" => "I. Sallow")
    expect(last_response.status).to eq(303)
    expect(entries("J101").map(&:by)).to eq(["I. Sallow"])
  end

  it "keeps what was typed when the session is lost: sign again, and it goes through once" do
    sign_in
    sent = guards("/jobs/new", "/jobs").merge(fields)
    clear_cookies
    post "/jobs", sent
    expect([last_response.status, text]).to match([403, /Sign again.*Weir van/])
    expect(workshop.jobs.all).to be_empty
    form = Nokogiri.HTML5(last_response.body).at_css("main form")
    2.times { post form["action"], hidden(form).merge("person" => "N. Ashgrove") }
    expect([last_response.status, last_response.location, workshop.jobs.all.size]).to eq([303, "/jobs/J101/codes", 1])
  end
end
