# frozen_string_literal: true

require "json"
require "stringio"
require "tempfile"
require "tmpdir"

# Bus logs: transport frames (TP), diagnostic services (UD) and heavy-vehicle messages (J9) of the reference values:
# ISO 15765-2, ISO 14229-1, ISO 15031-5, SAE J1939-21 and -73, from memory.
RSpec.describe Gadwall::Protocols do
  def log(*frames)
    frames
      .each_with_index
      .map do |frame, i|
        "(1700000000.#{format("%06d", i * 10_000)}) #{frame.include?(" ") ? frame : "can0 #{frame}"}\n"
      end
      .join
  end

  def scan(*frames)
    Tempfile.create("scan") do |file|
      file.write(frames.size == 1 && frames[0].include?("\n") ? frames[0] : log(*frames))
      file.flush
      Gadwall::CLI::ScanFile.read(file.path).to_h
    end
  end

  def words(found)
    found[:modules].flat_map do |each|
      each[:codes].map { |code| [[code[:code], code[:failure_type]].compact.join("-"), code[:status_byte]] }
    end
  end

  three = [
    "7E0#03190 2FF00000000".delete(" "),
    "7E8#100F5902FF403413",
    "7E0#30000A0000000000",
    "7E8#212F40632928C126",
    "7E8#2287080000000000"
  ]

  it "TP-03 puts a reply of three frames together, drops the padding, and reads three codes" do
    expect(words(scan(*three))).to eq([%w[C0034-13 2F], %w[C0063-29 28], %w[U0126-87 08]])
    expect(scan(*three)[:modules].first).to include(request_id: "7E0", response_id: "7E8", bus: "can0", answered: true)
    expect(scan(*three)[:modules].first[:codes].map { |code| code[:current] }).to eq([true, false, false])
  end

  it "TP-05 shows no codes of a reply whose frames are out of turn, nor of one that breaks off" do
    wrong = scan(*three.first(3), "7E8#232F40632928C126", "7E8#2287080000000000")
    expect([words(wrong), wrong[:lost].map { |row| row.values_at(:request_id, :why) }]).to match(
      [[], [["7E0", /sequence/]]]
    )
    short = scan(*three.first(4))
    expect([words(short), short[:lost].first[:why]]).to match([[], /incomplete/])
  end

  it "TP-04 reads a VIN of three frames" do
    found =
      scan(
        "7E0#0322F19000000000",
        "7E8#101462F190314D38",
        "7E0#3000000000000000",
        "7E8#2147444D3941584B",
        "7E8#2250303432373838"
      )
    expect(found[:modules].first[:identifiers]).to eq("vin" => "1M8GDM9AXKP042788")
  end

  it "TP-02 needs as many frames as the length asks for, beyond 4095 bytes too" do
    [15, 20, 62, 4095, 5000].each do |length|
      transport = described_class::Transport.new
      head = length > 4095 ? [0x10, 0, 0, 0, length >> 8, length & 0xFF] : [0x10 | (length >> 8), length & 0xFF]
      body = (0...length).map { |i| i & 0xFF }
      frames =
        [head + body.first(8 - head.size)] +
          body.drop(8 - head.size).each_slice(7).with_index(1).map { |part, n| [0x20 | (n & 0xF)] + part }
      messages =
        frames.flat_map do |data|
          transport.take(
            described_class::Frame.new(time_s: 0.0, bus: "can0", id: 0x7E8, extended: false, fd: false, data: data)
          )
        end
      expect(messages.map { |message| [message.data, message.error] }).to eq([[body, nil]]), length.to_s
      expect(frames.size - 1).to eq(length > 4095 ? ((length - 2) / 7.0).ceil : ((length - 6) / 7.0).ceil)
    end
  end

  it "keeps senders disconnected, however their frames interleave, and buses and kinds of ids too" do
    found =
      scan(
        "can0 7E0#031902FF00000000",
        "can1 7E0#031902FF00000000",
        "can0 7E8#100F5902FF403413",
        "can1 7E8#100B5902FF403413",
        "can0 18DA28F1#031902FF00000000",
        "can1 7E8#212F40632928FFFF",
        "can0 18DAF128#075902FF40201108",
        "can0 7E8#212F40632928C126",
        "can0 7E8#2287080000000000"
      )
    expect(found[:modules].map { |each| [each[:bus], each[:request_id], each[:codes].size] }).to eq(
      [["can0", "7E0", 3], ["can0", "18DA28F1", 1], ["can1", "7E0", 2]]
    )
    expect(found[:lost]).to eq([])
  end

  it "reads long frames of the flexible kind" do
    found = scan("18DA10F1##10319020900000000", "18DAF110##1000B5902FF4034132F4063292800000000")
    expect(words(found)).to eq([%w[C0034-13 2F], %w[C0063-29 28]])
  end

  it "pairs an answer with its request where the distance of their ids is unusual" do
    found = scan("713#031902FF00000000", "77D#0759 02FF40201108".delete(" "))
    expect(found[:modules].map { |each| [each[:request_id], each[:response_id], each[:codes].size] }).to eq(
      [%w[713 77D] + [1]]
    )
    expect(found[:lost]).to eq([])
  end

  it "UD-06 tells refusals, waits out 'response pending', and lists who did not answer" do
    found = scan("760#0331010203000000", "768#037F317800000000", "768#037F312200000000", "761#031902FF00000000")
    expect(found[:modules].first).to include(name: "module 760", refused: { "31" => "conditions not correct" })
    expect(found[:lost]).to eq([{ request_id: "761", bus: "can0", why: "no answer" }])
  end

  it "UD-09 reads the legislated service, and takes a count for no list" do
    found =
      scan("7DF#0103000000000000", "7E8#06430240 34C12100".delete(" "), "7E0#031901FF00000000", "7E8#065901FF01000300")
    expect(found[:modules].first[:codes].map { |code| [code[:code], code[:failure_type], code[:status]] }).to eq(
      [["C0034", nil, ["confirmedDTC"]], ["U0121", nil, ["confirmedDTC"]]]
    )
  end

  it "J9-01 takes an id apart" do
    expect([described_class::Heavy.group(0x18FECA0B), 0x18FECA0B & 0xFF, 0x18FECA0B >> 26]).to eq([65_226, 11, 6])
    expect(described_class::Heavy.group(0x18EC110B)).to eq(0xEC00)
  end

  it "J9-03/04 reads an active code of a single frame, a large number, and none" do
    expect(scan("18FECA0B#04FF17030503FFFF")[:j1939]).to match(
      [include(source: 11, spn: 791, fmi: 5, count: 3, lamps: { "amber" => "on" })]
    )
    expect(scan("18FECA0B#14FF00F0FF01FFFF")[:j1939]).to match(
      [include(spn: 520_192, fmi: 31, count: 1, lamps: { "red" => "on", "amber" => "on" })]
    )
    expect(scan("18FECA0B#00FF00000000FFFF")[:j1939]).to eq([])
  end

  it "J9-05 puts a broadcast of two codes together" do
    found = scan("18ECFF0B#200A0002FFCAFE00", "18EBFF0B#0104FF1503050217", "18EBFF0B#02030801FFFFFFFF")
    expect(found[:j1939].map { |code| code.values_at(:spn, :fmi, :count) }).to eq([[789, 5, 2], [791, 8, 1]])
  end

  # UD-02, UD-03: ISO 14229-1 Annex A; J9-06: SAE J1939-71; J9-07: SAE J1939-73; all from memory.
  it "UD-02/03, J9-06/07 knows every reason to refuse, every brake parameter and every failure mode of the reference " \
       "rows" do
    catalogue = Gadwall::Knowledge.catalogue
    expect(
      %w[10 11 12 13 14 21 22 24 25 26 31 33 35 36 37 70 71 72 73 78 7E 7F 83 84 88 89 8F 90 92 93] -
        catalogue.negative_responses.keys
    ).to eq([])
    expect([*789..800, 629, 630, 627, 168, 639].map(&:to_s) - catalogue.j1939.keys).to eq([])
    expect([*0..21, 31].map(&:to_s) - catalogue.failure_modes_j1939.keys).to eq([])
    {
      "22" => /conditions/,
      "33" => /security/,
      "78" => /response pending/,
      "88" => /speed.*high/,
      "93" => /voltage.*low/
    }.each { |id, words| expect(catalogue.negative_responses[id]["text"]).to match(words) }
    { "5" => /open|current below/, "8" => /frequency/, "13" => /calibration/, "19" => /network/ }.each do |id, words|
      expect(catalogue.failure_modes_j1939[id]["text"]).to match(words)
    end
    expect(catalogue.j1939["791"]["text"]).to match(/axle 2.*left/i)
  end

  # UD-07: ISO 14229-1 Annex C, from memory.
  it "UD-07 reads the identifiers that are kept before a module is swapped" do
    found =
      scan(
        "7E0#0322F18700000000",
        "7E8#0762F187413142 32".delete(" "),
        "7E0#0322F18900000000",
        "7E8#0662F189563130",
        "7E0#0322F19100000000",
        "7E8#0662F191483230",
        "7E0#0322F18C00000000",
        "7E8#0662F18C533939"
      )
    expect(found[:modules].first[:identifiers]).to eq(
      "part_number" => "A1B2",
      "software" => "V10",
      "hardware" => "H20",
      "serial" => "S99"
    )
  end

  it "takes a request that wants no answer for no lost module" do
    expect(scan("7E2#023E800000000000", "7DF#023E800000000000")[:lost]).to eq([])
    expect(scan("7E2#023E000000000000")[:lost].map { |row| row[:request_id] }).to eq(["7E2"])
  end

  it "J9-02 leaves the conversion bit out of the count, and J9-01 keeps sources apart" do
    expect(
      scan("18FECA0B#04FF17030583FFFF", "18FECA03#00FF00000000FFFF", "18FECA21#04FF1503050 1FFFF".delete(" "))[
        :j1939
      ].map { |code| code.values_at(:source, :count) }
    ).to eq([[11, 3], [33, 1]])
  end

  it "J9-05 puts messages to one address together too, with their requests between" do
    found =
      scan(
        "1CECF90B#100A0002FFCAFE00",
        "1CEC0BF9#1102 01FFFFCAFE00".delete(" "),
        "1CEBF90B#0104FF1503050217",
        "1CEBF90B#02030801FFFFFFFF",
        "1CEC0BF9#130A0002FFCAFE00"
      )
    expect(found[:j1939].map { |code| code.values_at(:spn, :fmi, :count) }).to eq([[789, 5, 2], [791, 8, 1]])
  end

  # J9-08: SAE J1939-71, EBC2, from memory.
  it "J9-08 tells the speed of the front axle and each wheel against it" do
    found =
      scan(
        "18FEBF0B#0032 7D7D8D7DFFFF".delete(" "),
        "18FEBF0B#0040 7D7D8D7DFFFF".delete(" "),
        "18FEBF0B#0000 7D7D7D7DFFFF".delete(" "),
        "18FEBF0B#FFFF7D7D7D7DFFFF"
      )
    expect(found[:wheel_speeds]).to eq(
      [
        {
          bus: "can0",
          source: 11,
          front_axle_km_h: [0.0, 64.0],
          apart_km_h: {
            "front_left" => 0.0,
            "front_right" => 0.0,
            "rear_left" => 1.0,
            "rear_right" => 0.0
          }
        }
      ]
    )
    expect(scan("18FECA0B#00FF00000000FFFF")).not_to have_key(:wheel_speeds)
  end

  {
    "can0 7E8#0322\n" => /line 1, column 1:.*a time in brackets/,
    "(1.0) 7E8#0322\n" => /line 1, column 7:.*the name of a bus/,
    "(1.0) can0 7E#0322\n" => /line 1, column 12:.*3 or 8 hexadecimal/,
    "(1.0) can0 7E8#0322F\n" => /line 1, column 16:.*whole bytes/,
    "(1.0) can0 7E8#00\n(2.0) can0 7E8#112233445566778899\n" => /line 2, column 16:.*at most 8 bytes/,
    "(1.0) can0 7E8#00\nnonsense\n" => /line 2, column 1: 'nonsense'/,
    "(1.0) can0 FFFFFFFF#00\n" => /line 1, column 12:.*1FFFFFFF/
  }.each do |text, message|
    it "answers #{text.lines.last.chomp} with one sentence that names line and column" do
      expect { described_class::ScanLog.read(StringIO.new(text)) }.to raise_error(Gadwall::InputError, message)
    end
  end

  it "bears 20 000 mutated logs: no error but its own, no hang" do
    random = Random.new(11)
    seed =
      log(
        *three,
        "18ECFF0B#200A0002FFCAFE00",
        "18EBFF0B#0104FF1503050217",
        "18EBFF0B#02030801FFFFFFFF",
        "18DA10F1##10319020900000000"
      )
    started = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    20_000.times do
      text = seed.dup
      random.rand(1..4).times { mutate(text, random) }
      reads_or_says_where(text) { described_class::ScanLog.read(StringIO.new(text)).conversations.each(&:codes) }
    end
    expect(Process.clock_gettime(Process::CLOCK_MONOTONIC) - started).to be < 120
  end

  def mutate(text, random)
    at = random.rand(text.length + 1)
    case random.rand(4)
    when 0
      text.insert(
        at,
        random.rand(256).chr.force_encoding("ASCII-8BIT").encode("UTF-8", invalid: :replace, undef: :replace)
      )
    when 1
      text.slice!(at, random.rand(1..20))
    when 2
      text[at] = "0123456789ABCDEF#( )\n".chars.sample(random: random) if at < text.length
    else
      text.insert(at, text[at, random.rand(1..60)].to_s)
    end
  end
end

RSpec.describe Gadwall::TroubleCodes::CodeList do
  it "reads a table with its columns in any order, with any separator" do
    rows =
      described_class.read("status;code;text;module\r\n2F;C0034-13;Right front sensor;ABS\r\nstored;U0121;;Body\r\n")
    expect(rows.map { |row| [row.module_name, row.row.values_at("code", "failure_type", "status", "text")] }).to eq(
      [["ABS", ["C0034", "13", "2F", "Right front sensor"]], ["Body", ["U0121", nil, "history", ""]]]
    )
  end

  it "reads free text with codes in it, module by module" do
    rows =
      described_class.read(
        "Scan of today\n\nABS:\n  C0034-13 present: right front sensor\nnothing else\nSteering:\n  U0121 stored\n"
      )
    expect(rows.map { |row| [row.module_name, row.row["code"], row.row["status"]] }).to eq(
      [%w[ABS C0034 current], %w[Steering U0121 history]]
    )
  end

  it "refuses what holds no code, naming line and column" do
    expect_refusal(/line 1, column 1/) { described_class.read("just words\n") }
    expect_refusal(/line 2, column 5: 'X99'/) { described_class.read("module,code\nABS,X99\n") }
    expect_refusal(/line 1, column 1/) { described_class.read("\n\n") }
  end

  it "bears 20 000 mutated lists" do
    random = Random.new(5)
    seed = "module,code,status,text\nABS,C0034-13,2F,\"sensor, right\"\nBody;U0121;stored;x\nC0040 present\n"
    20_000.times do
      text = seed.dup
      3.times { text[random.rand(text.length)] = (32 + random.rand(95)).chr }
      reads_or_says_where(text) { described_class.read(text) }
    end
  end
end

RSpec.describe Gadwall::CLI::ScanFile do
  def files(*texts)
    Dir.mktmpdir do |folder|
      paths =
        texts.each_with_index.map { |text, i| File.join(folder, "#{i}.txt").tap { |path| File.write(path, text) } }
      yield(*paths)
    end
  end

  def run(*arguments)
    out = StringIO.new
    err = StringIO.new
    [Gadwall::CLI::Runner.new(out: out, err: err).run(arguments), out.string, err.string]
  end

  it "compares two: gone, stayed, new, turned to history, modules lost and gained" do
    files(
      "module,code,status\nABS,C0034-13,2F\nABS,C0063-29,2F\nABS,C0040-64,2F\nBody,U0121,28\n",
      "module,code,status\nABS,C0034-13,2F\nABS,C0040-64,28\nABS,C0044-62,2F\nCluster,U0155,28\n"
    ) do |before, after|
      status, out, = run("scan", before, after)
      expect(status).to eq(0)
      told = JSON.parse(out).transform_values { |rows| rows.map { |row| row.is_a?(Hash) ? row["code"] : row } }
      expect(told).to eq(
        "gone" => %w[C0063 U0121],
        "stayed" => ["C0034"],
        "new" => %w[C0044 U0155],
        "turned_to_history" => ["C0040"],
        "modules_lost" => ["Body"],
        "modules_gained" => ["Cluster"]
      )
    end
  end

  describe "what a log of a real interface holds beside data" do
    def scanned(text)
      files(text) { |path| return JSON.parse(run("scan", path)[1]) }
    end

    it "passes over error frames, remote frames and a last line that was cut off, counts them and says so" do
      log = <<~LOG
        (1.0) can0 20000004#0000000000000000
        (1.1) can0 7E0#R
        (1.2) can0 7E0#0319020F00000000
        (1.3) can0 7E8#0759020F40401108
        (1.4) can0 7E0#03190
      LOG
      told = scanned(log.chomp)
      expect(told["skipped"]).to eq("error_frames" => 1, "remote_frames" => 1, "cut_lines" => 1)
      expect(told["modules"].map { |row| row["codes"].map { |code| code["code"] } }).to eq([["C0040"]])
    end

    it "refuses a line in the midst that is no frame, and a last one that is none" do
      [
        "(1.0) can0 7E8#0\n(1.1) can0 7E0#R\n",
        "(1.0) can0 7E0#R\nnonsense",
        "(1.0) can0 7E0#R\n(1.1) can0 7E8#0\n"
      ].each { |log| files(log) { |path| expect(run("scan", path)[0]).to eq(1) } }
    end

    it "calls a module lost that says 'wait' and then nothing; one that spoke after it is not" do
      waits = "(1.0) can0 7E0#0319020F00000000\n(1.1) can0 7E8#037F197800000000\n"
      told = scanned(waits)
      expect(told["lost"].map { |row| row["why"] }).to match([/response pending/])
      expect(told["modules"]).to eq([])
      expect(scanned("#{waits}(1.2) can0 7E8#0759020F40401108\n")["lost"]).to eq([])
    end

    it "pairs requests with answers by bus and by addressing scheme" do
      told = scanned(<<~LOG)
        (1.0) can0 7E0#0319020F00000000
        (1.1) can1 18DA10F1#0319020F00000000
        (1.2) can1 18CE2AF1#030319020F000000
        (1.3) can1 18CEF12A#030759020F404111
        (1.4) can1 18DAF110#0759020F40401108
      LOG
      expect(told["modules"].map { |row| row.values_at("bus", "request_id", "response_id") }).to contain_exactly(
        %w[can1 18DA10F1 18DAF110]
      )
      expect(told["lost"].map { |row| row.values_at("bus", "request_id") }).to contain_exactly(
        %w[can0 7E0],
        %w[can1 18CE2AF1]
      )
    end

    it "has a sentence for an empty file, and takes an unknown kind of signal for wrong usage" do
      files("") { |path| expect(run("scan", path)).to match([1, "", /this file is empty/]) }
      expect(run("capture", "any.csv", "--signal", "smell")).to match([2, "", /--signal: 'smell'.*usage/m])
    end
  end

  it "answers bad files with one sentence and status 1, wrong usage with 2" do
    files("(1.0) can0 7E8#0\n") { |path| expect(run("scan", path)).to match([1, "", /\Aline 1, column 16: .*\n\z/]) }
    expect(run("scan", "/nowhere/at/all")).to match([1, "", %r{file: '/nowhere/at/all'}])
    expect(run("scan")).to match([2, "", /usage/])
    expect(run("scan", "a", "b", "c")).to match([2, "", /usage/])
  end
end
