# frozen_string_literal: true

require "web_helper"
require "net/http"
require "open3"
require "timeout"

# bin/serve: an empty workshop, begun on its first page, with a copy of it each day.
RSpec.describe "An empty workshop", :web do
  around { |example| Dir.mktmpdir { |folder| @folder = folder and example.run } }

  let(:app) { WebHelp.application.tap { |made| made.set(:first_start, true) } }

  filled = {
    name: "Sluice Street Brakes",
    address: "4 Sluice Street\nHeronby",
    rate: "85",
    currency: "£",
    lead: "A. Reed"
  }

  def form
    get "/start"
    body = Nokogiri.HTML5(last_response.body)
    body.css("form[action='/start'] input[type=hidden]").to_h { |field| [field["name"], field["value"]] }
  end

  it "leads every page to the first one until it is begun, then to the empty list" do
    %w[/ /jobs/new /day /settings /person].each do |path|
      get path
      expect([path, last_response.location]).to eq([path, "/start"])
    end
    post "/start", form.merge(filled.transform_keys(&:to_s))
    expect(last_response.location).to eq("/")
    get "/"
    expect(text).to include("No vehicle in the workshop").and include("A. Reed")
    expect(app.workshop.card).to eq({ "name" => "Sluice Street Brakes", "address" => "4 Sluice Street\nHeronby" })
    expect([app.workshop.shop.rate, app.workshop.shop.currency]).to eq([85, "£"])
  end

  { name: "", lead: "42", rate: "free", currency: "", address: "x" * 400, pressure: "furlong" }.each do |field, wrong|
    it "says what is wrong with #{field}, and keeps the rest" do
      post "/start", form.merge(filled.merge(field => wrong).transform_keys(&:to_s))
      expect(last_response.status).to eq(422)
      expect(last_response.body).to include("field-error")
      expect(last_response.body).to include("4 Sluice Street") unless field == :address
      expect(app.workshop.card).to be_nil
    end
  end

  it "puts its name and address on the report and in its print" do
    post "/start", form.merge(filled.transform_keys(&:to_s))
    @signed_in = true
    number = job
    get "/jobs/#{number}/report"
    expect(text).to include("Sluice Street Brakes").and include("4 Sluice Street, Heronby")
    printed, = Open3.capture2("pdftotext", "-", "-", stdin_data: get("/jobs/#{number}/report.pdf").body, binmode: true)
    expect(printed.force_encoding("UTF-8")).to include("Sluice Street Brakes").and include("4 Sluice Street, Heronby")
  end

  describe Store::Copies do
    day = ->(text) { Date.iso8601(text) }

    # By hand: of 400 days without a gap stay 7 days, the ends of 4 weeks and of 12 months, some of them the same day.
    it "keeps seven days, four weeks and twelve months" do
      all = (day["2030-01-01"]..day["2031-02-04"]).to_a
      kept = described_class.kept(all)
      expect(kept.last(7)).to eq((day["2031-01-29"]..day["2031-02-04"]).to_a)
      expect(kept).to include(*%w[2031-01-26 2031-01-19 2030-12-31 2030-11-30 2030-03-31].map(&day))
      expect(kept).not_to include(*%w[2031-01-12 2030-12-30 2030-02-28].map(&day))
      expect(kept.size).to be <= 7 + 4 + 12
      expect(described_class.kept([])).to eq([])
    end

    it "makes one a day, and tells when the last is too old" do
      path = File.join(@folder, "shop.sqlite3")
      Store.open(path).disconnect
      copies = described_class.new(path, File.join(@folder, "copies"))
      expect(copies.overdue?(day["2031-02-04"])).to be(true)
      now = Time.utc(2031, 2, 4, 12)
      expect([copies.make(now), copies.make(now + 3600), copies.dates]).to eq([true, false, [day["2031-02-04"]]])
      expect([2, 3].map { |days| copies.overdue?(day["2031-02-04"] + days) }).to eq([false, true])
    end
  end

  it "is served by bin/serve on a database of its own, and copied" do
    path = File.join(@folder, "own.sqlite3")
    port = TCPServer.open("127.0.0.1", 0) { |server| server.addr[1] }
    given = { "RUBYOPT" => nil, "RUBYLIB" => nil, "BUNDLE_GEMFILE" => nil, "BUNDLE_WITHOUT" => "" }
    output = File.join(@folder, "out")
    pid = Process.spawn(given.merge("GADWALL_DB" => path, "PORT" => port.to_s), "bin/serve", out: output, err: output)
    Timeout.timeout(60) { sleep 0.1 until File.read(output).include?("Gadwall is at") }
    answer = Net::HTTP.get_response(URI("http://127.0.0.1:#{port}/"))
    expect([answer.code, answer["location"]]).to eq(%w[303 /start])
    Timeout.timeout(30) { sleep 0.1 until Dir["#{path}-copies/*.gadwall"].any? }
    expect(Store::Backup.verified(Dir["#{path}-copies/*.gadwall"].first)["schema"]).to eq(Store.newest_schema)
  ensure
    Process.kill("TERM", pid)
    Process.wait(pid)
  end
end
