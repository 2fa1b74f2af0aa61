# frozen_string_literal: true

require "web_helper"
require "open3"
require "zlib"
require_relative "../support/web/capture_files"

# What breaks nothing: captures of every kind, numbers that are none, files that are no text.
RSpec.describe "Hostile input", :web do
  include CaptureFiles

  rows = ->(times, values) { "Time (s),CH1 (V)\n#{times.zip(values).map { |pair| pair.join(",") }.join("\n")}\n" }
  ten_hertz = Array.new(200) { |i| (i / 10.0) + (i < 100 ? 0 : 20) }
  files = {
    "ten hertz with a pause of 20 s" => rows.call(ten_hertz, ten_hertz.map { |t| Math.sin(t).round(3) }),
    "two samples" => rows.call([0, 1], [0, 1]),
    "two samples far apart" => rows.call([0, 1e6], [0, 1]),
    "equal times" => rows.call([1, 1, 1], [0, 1, 2]),
    "steps of 1e-320" => rows.call(Array.new(5) { |i| "#{i}e-320" }, [0, 1, 0, 1, 0]),
    "values of 1e308" => rows.call([0, 1, 2, 3], %w[1e308 -1e308 1e308 0]),
    "values past all numbers" => rows.call([0, 1, 2], %w[1e999 nan inf]),
    "times past all numbers" => rows.call(%w[0 1e999 2e999], [0, 1, 2]),
    "one value throughout" => rows.call(Array.new(50) { |i| i / 10.0 }, Array.new(50, 2.5)),
    "gzip" => Zlib.gzip(rows.call([0, 1], [0, 1])),
    "binary" => Random.new(5).bytes(4000),
    "nothing" => "",
    "a header alone" => "Time (s),CH1 (V)\n",
    "zero bytes" => "\0" * 500
  }
  kinds = %w[wheel_speed motor_current pump_pressure live_data]

  files.each do |name, content|
    it "takes or refuses a capture with #{name}, and every page of the job stands afterwards" do
      number = job(codes: "C0031-13 current")
      kinds.each_with_index do |kind, i|
        fields = { kind: kind, circuit: "front_left", teeth: "48", file: upload(content, name: "#{i}.csv") }
        submit("/jobs/#{number}/captures", "/jobs/#{number}/captures", **fields)
        fields[:file] = upload(content.sub("CH1 (V)", kind == "motor_current" ? "CH1 (A)" : "CH1 (bar)"))
        submit("/jobs/#{number}/captures", "/jobs/#{number}/captures", **fields)
        expect([kind, last_response.status]).to match([kind, be_between(300, 303).or(eq(422))])
      end
      ids = workshop.captures.for_job(workshop.dossier(number).record).map(&:id)
      pages = %w[codes trace captures report report.pdf case.json decide vehicle] + ids.map { |id| "captures/#{id}" }
      pages.each do |page|
        get "/jobs/#{number}/#{page}"
        expect([page, last_response.status]).to eq([page, 200])
      end
    end
  end

  it "draws a pause as a gap, and takes a capture back like a reading" do
    number = job(codes: "C0031-13 current")
    content = files.fetch("ten hertz with a pause of 20 s").sub("(V)", "(A)")
    submit("/jobs/#{number}/captures", "/jobs/#{number}/captures", kind: "motor_current", file: upload(content))
    get "/jobs/#{number}/report"
    figure = Nokogiri.HTML5(last_response.body).at_css(".trace-figure")
    expect(figure.css("polyline").size).to eq(2)
    id = workshop.captures.for_job(workshop.dossier(number).record).first.id
    withdraw = "/jobs/#{number}/captures/#{id}/withdraw"
    submit("/jobs/#{number}/captures", withdraw, reason: " ")
    expect([last_response.status, text]).to match([422, /Enter what was wrong with it/])
    submit("/jobs/#{number}/captures", withdraw, reason: "probe slipped off")
    get "/jobs/#{number}/captures"
    expect(text).to include("withdrawn by #{WebHelp::PERSON}: probe slipped off")
    get "/jobs/#{number}/report"
    expect(Nokogiri.HTML5(last_response.body).at_css(".trace-figure")).to be_nil
  end

  it "lets no number past that is not finite: pads, sums, the sheet, prices" do
    number = job(codes: "C0031-13 current")
    %w[1e999 NaN -Infinity 1e400 1e16].each do |typed|
      readings = { "readings[corners][front_left][inner]" => typed, "readings[corners][front_left][outer]" => "8" }
      submit("/jobs/#{number}/pads", "/jobs/#{number}/pads", **readings.transform_keys(&:to_sym))
      expect([typed, last_response.status]).to match([typed, be < 500])
      get "/sums?sum=bulb_load&power=#{typed}&rated=12&volt=12"
      expect([typed, last_response.status]).to eq([typed, 200])
    end
    get "/jobs/#{number}/pads"
    expect(last_response.status).to eq(200)
  end

  it "bounds what a day may hold, and when something may be promised" do
    sign_in
    @signed_in = true
    tools = Array.new(20_000) { |i| "Tool #{i}; interface" }.join("\n")
    submit("/day", "/day/hours", people: "A. Reed", places: "Lift; lift", tools: tools, start: "08:00")
    expect([last_response.status, text]).to match([422, /at most 60 lines/])
    number = job
    %w[-5000-01-01T00:00 0001-01-01T00:00 9999-12-31T00:00].each do |promised|
      submit("/jobs/#{number}/report", "/jobs/#{number}/promise", promised: promised)
      expect([promised, last_response.status]).to eq([promised, 422])
    end
  end

  it "answers with one sentence to files that are no text" do
    Dir.mktmpdir do |folder|
      path = File.join(folder, "bytes.json")
      ["\xFF\xFE{", "{\"jobs\": [\"\xC3\x28\"]}", "{\"a\": 1e999}", "[1e999]", Random.new(3).bytes(200)].each do |bytes|
        File.binwrite(path, bytes)
        %w[day check assess plan].each do |command|
          out = StringIO.new
          err = StringIO.new
          status = Gadwall::CLI::Runner.new(out: out, err: err).run([command, path])
          expect([command, bytes[0, 8], status, out.string]).to eq([command, bytes[0, 8], 1, ""])
          expect(err.string.lines.size).to eq(1)
        end
      end
      out, err, status = Open3.capture3(File.join(Gadwall::ROOT, "bin/gadwall"), "assess", path)
      expect([status.exitstatus, out, err.lines.size]).to eq([1, "", 1])
    end
  end
end

RSpec.describe Web::Server do
  it "says what a port is" do
    expect { described_class.new("x.sqlite3", port: "abc") }.to raise_error(Gadwall::InputError, /PORT: 'abc'.*65535/)
  end

  it "makes a new key for one that was cut short, and keeps all to the owner" do
    Dir.mktmpdir do |folder|
      path = File.join(folder, "gadwall.sqlite3")
      Store.open(path).disconnect
      File.write("#{path}.key", "short")
      made = Web::App.secret_beside(path)
      expect([made.length >= 64, Web::App.secret_beside(path)]).to eq([true, made])
      Store::Lock.take(path, "x").release
      modes = Dir["#{path}*"].to_h { |file| [File.basename(file), format("%o", File.stat(file).mode & 0o777)] }
      expect(modes.values.uniq).to eq(["600"])
    end
  end
end
