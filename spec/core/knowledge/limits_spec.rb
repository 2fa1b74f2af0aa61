# frozen_string_literal: true

require "spec_helper"
require "stringio"
require "tempfile"

# Small inputs that would keep everybody waiting: refused in a sentence, quickly.
RSpec.describe "Limits of what is read" do
  SECONDS = 3 # on a busy machine; without the limits each takes from ten seconds to minutes

  def file(text)
    Tempfile.create("limits") do |temp|
      temp.write(text)
      temp.flush
      yield temp.path
    end
  end

  def expect_refusal(message, &block)
    from = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    expect(&block).to raise_error(Gadwall::InputError, message)
    expect(Process.clock_gettime(Process::CLOCK_MONOTONIC) - from).to be < SECONDS
  end

  def io(text)
    StringIO.new(text)
  end

  def sheet(**more)
    { "name" => "van", "sensors" => "active" }.merge(more.transform_keys(&:to_s))
  end

  wide = "#{["time", *(1..20_000).map { |i| "c#{i}" }].join(",")}\n#{(["0"] * 20_001).join(",")}\n"
  seventy = "#{["time", *(1..70).map { |i| "c#{i}" }].join(",")}\n#{(["0"] * 71).join(",")}\n"

  [Gadwall::Signals::CsvCapture, Gadwall::Signals::LiveLog].each do |reader|
    it "takes no table of 20 000 columns, and none of 71 (#{reader.name.split("::").last})" do
      expect_refusal(/line 1.*lines of at most 16384 characters/) { reader.read(io(wide)) }
      expect_refusal(/at most 64 columns/) { reader.read(io(seventy)) }
    end

    it "takes no line of three megabytes, wherever it stands (#{reader.name.split("::").last})" do
      expect_refusal(/line 1, column 16385/) { reader.read(io("#{"t" * 3_000_000},a\n1,2\n")) }
      expect_refusal(/line 2, column 16385/) { reader.read(io("time,a\n#{"1," * 1_500_000}\n")) }
      expect_refusal(/column 16385/) { reader.read(io("1;2," * 800_000)) }
    end
  end

  it "takes no vehicle of a megabyte, and no list of connectors without end" do
    joints = (1..15_000).map { |i| { "id" => "j#{i}", "name" => "joint #{i}" } }
    circuits = { "front_left" => { "joints" => joints, "sections" => [{ "length_m" => 1 }] * 15_001 } }
    text = JSON.generate("gadwall_vehicle" => 1, "vehicle" => sheet(circuits: circuits))
    expect_refusal(/at most 200000 bytes/) { Gadwall::VehicleFile.parse(text) }
    expect_refusal(/sections/) do
      Gadwall::Vehicle::System.build(Gadwall::Vehicle::Sheet.new(sheet(circuits: circuits)))
    end
    unknown = (1..20_000).to_h { |i| ["front_left#{i}", {}] }
    expect_refusal(/front_left1/) { Gadwall::Vehicle::Sheet.new(sheet(circuits: unknown)) }
  end

  it "takes no case of twenty thousand entries, and no nesting of fifty thousand" do
    entries = Array.new(20_000) { { "kind" => "reading", "test" => "x" * 40, "reading" => "1" } }
    text = JSON.generate("gadwall_case" => 1, "vehicle" => sheet, "evidence" => entries)
    expect_refusal(/evidence: '20000 entries'.*at most 5000/) { Gadwall::CaseFile.parse(text) }
    deep = "#{"[" * 50_000}#{"]" * 50_000}"
    expect_refusal(/a JSON document/) { Gadwall::CaseFile.parse("{\"gadwall_case\":1,\"vehicle\":#{deep}}") }
    expect_refusal(/a JSON document/) { Gadwall::VehicleFile.parse(deep) }
  end

  it "compares no name of nine thousand letters" do
    system = Gadwall::Vehicle::System.build(Gadwall::Vehicle::Sheet.new(sheet), models: CoreHelp::MODELS)
    expect_refusal(/is not valid/) { system.test("x" * 9000) }
  end

  it "takes no list of thirty thousand DTCs, and no empty file" do
    file("C0031-13 current left front sensor\n" * 30_000) do |path|
      expect_refusal(/at most 20000 lines/) { Gadwall::CLI::ScanFile.read(path) }
    end
    file("") { |path| expect_refusal(/DTC list/) { Gadwall::CLI::ScanFile.read(path) } }
  end

  it "says that a capture whose time stamps are all equal has no time" do
    file("time,CH1\n#{"0,1\n" * 100}") do |path|
      %w[wheel_speed motor_current pump_pressure].each do |signal|
        expect_refusal(/100 samples at one time.*times that run on/) do
          Gadwall::Signals::CaptureFile.analyse(path, { "signal" => signal })
        end
      end
    end
  end

  # [text, separator, cells]
  [
    ['Time,"Speed, front left (km/h)",b', ",", ["Time", "Speed, front left (km/h)", "b"]],
    ['"a ""b"" c";2', ";", ['a "b" c', "2"]],
    ["a,,b,", ",", ["a", "", "b", ""]],
    ['5" disc,2', ",", ['5" disc', "2"]],
    [' "x" , y ', ",", %w[x y]]
  ].each do |line, separator, cells|
    it "reads the cells of #{line}" do
      expect(Gadwall::Cells.split(line, separator)).to eq(cells)
    end
  end

  it "finds a cell's column behind a quoted one" do
    expect(Gadwall::Cells.column('"a,b",c', ",", 1)).to eq(7)
  end

  it "reads lines whatever ends them, across the parts in which a file is read" do
    ["\n", "\r\n", "\r"].each do |mark|
      text = Array.new(30_000) { |i| "line #{i}" }.join(mark)
      lines = []
      Gadwall::TextLines.each(io(text)) { |line, number| lines << [number, line] }
      expect([lines.size, lines[0], lines[-1]]).to eq([30_000, [1, "line 0"], [30_000, "line 29999"]]), mark.inspect
    end
  end
end
