# frozen_string_literal: true

require "web_helper"

# A page of a job is kept as it was made, for whoever opens it next: the same as one that is made anew, and never that
# of another state of the job or of the workshop.
RSpec.describe "A kept page", :web do
  around { |example| Dir.mktmpdir { |folder| @path = File.join(folder, "shop.sqlite3") and example.run } }

  # One process after the other on the same database.
  let(:first) { WebHelp.application(@path) }
  let(:later) { WebHelp.application(@path) }

  def app
    @app ||= first
  end

  # The trace page as it is shown, without what belongs to one form alone.
  def shown(number)
    get "/jobs/#{number}/trace"
    expect(last_response.status).to eq(200)
    last_response.body.gsub(/(name="(?:form_token|authenticity_token)" value=)"[^"]*"/, "\\1")
  end

  def diagnoses
    count = 0
    allow(Gadwall::Diagnosis).to receive(:assess).and_wrap_original do |assess, *given|
      count += 1
      assess.call(*given)
    end
    yield
    count
  end

  def restart
    @app = later
    @_rack_test_sessions = @_rack_test_current_session = nil
    @signed_in = false
  end

  it "is shown after a restart without a diagnosis, and is the page that would be made" do
    number = job(codes: "C0031-13 current")
    made = shown(number)
    expect(diagnoses { expect(shown(number)).to eq(made) }).to eq(0)
    restart
    sign_in
    count = diagnoses { expect(shown(number)).to eq(made) }
    expect(count).to eq(0)
    FileUtils.rm_rf(Dir["#{@path}-pages/*/*"])
    expect(shown(number)).to eq(made)
  end

  it "has forms that can be sent, by whoever opens it, in his own name and colours" do
    number = job(codes: "C0031-13 current")
    shown(number)
    restart
    sign_in("B. Finch")
    @signed_in = true
    set_cookie("theme=dark", URI("http://localhost/"))
    page = shown(number)
    expect(page).to include('data-theme="dark"', "At the bench: B. Finch")
    expect(page).not_to include(WebHelp::PERSON, "<!--hole")
    read(number, "front_left.bias.sensor_plug", "5.0")
    expect(entries(number).last.by).to eq("B. Finch")
    expect(last_response.status).to eq(303)
  end

  it "is never that of an earlier state" do
    number = job(codes: "C0031-13 current")
    before = shown(number)
    read(number, "front_left.resistance.sensor_plug", "OL")
    after = shown(number)
    expect([after, after.include?("OL")]).not_to eq([before, false])
    perform(number, Gadwall::Job::Acts::Withdraw, entry: entries(number).last.seq, reason: "probe slipped")
    expect(shown(number)).to include("probe slipped")
    vehicle = workshop.dossier(number).record.vehicle.merge("plate" => "GW 404")
    values = { vehicle: vehicle, system: workshop.loader.system(vehicle) }
    perform(number, Gadwall::Job::Acts::EditSheet, **values)
    expect(shown(number)).to include("GW 404")
  end

  it "is made anew where the workshop charges or measures otherwise" do
    number = job(codes: "C0031-13 current")
    shown(number)
    workshop.like(Gadwall::Quantity::Preferences.new("pressure" => "psi"), by: WebHelp::PERSON)
    expect(diagnoses { shown(number) + shown(number) }).to eq(0) # the evidence is the same: only the page is made
    expect(Dir["#{@path}-pages/*/*"].size).to eq(1)
  end

  it "is kept with the answer to a reading, so that the next one finds it" do
    number = job(codes: "C0031-13 current")
    form = guards("/jobs/#{number}/trace?test=front_left.bias.sensor_plug", "/jobs/#{number}/readings")
    header "HX-Request", "true"
    post "/jobs/#{number}/readings", form.merge("reading" => "5.0")
    expect(last_response.body).to include('id="trace"', "5 V")
    expect(last_response.body).not_to include("<!--hole", "<html")
    header "HX-Request", nil
    restart
    sign_in
    page = nil
    expect(diagnoses { page = shown(number) }).to eq(0)
    FileUtils.rm_rf(Dir["#{@path}-pages/*/*"])
    expect(shown(number)).to eq(page)
  end

  it "takes no typed text for a hole" do
    number = job(codes: "C0031-13 current", customer: "<!--hole guards-->")
    2.times { expect(shown(number)).to include("&lt;!--hole guards--&gt;") }
  end

  it "is of no use to a program that was changed, and goes" do
    number = job(codes: "C0031-13 current")
    shown(number)
    old = Dir["#{@path}-pages/*/*"]
    allow(Store::PageFolder).to receive(:version).and_return("another")
    restart
    sign_in
    expect(diagnoses { shown(number) }).to eq(1)
    expect(old.any? { |file| File.exist?(file) }).to be(false)
  end

  it "is the owner's alone, and goes with its database" do
    shown(job(codes: "C0031-13 current"))
    files = Dir["#{@path}-pages/*/*"]
    expect(files.map { |file| format("%o", File.stat(file).mode & 0o777) }).to eq(["600"])
    File.binwrite(files.first, File.binread(files.first)[0, 40])
    number = workshop.jobs.all.first.number
    expect(shown(number)).to include('id="trace"')
    Store.remove(@path)
    expect(Dir.exist?("#{@path}-pages")).to be(false)
  end

  it "is not kept of a job that is connected to a simulated vehicle, and changes with it" do
    workshop.mark_demo(by: WebHelp::PERSON)
    number = job
    submit("/jobs/#{number}/codes", "/jobs/#{number}/interface", seed: "9")
    submit("/jobs/#{number}/codes", "/jobs/#{number}/codes", codes: "C0031-13 current", answered: "yes")
    shown(number)
    expect(Dir["#{@path}-pages/*/*"]).to be_empty
  end
end
