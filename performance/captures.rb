# frozen_string_literal: true

require "json"
require "open3"
require "rbconfig"
require "tmpdir"
require_relative "figures"
require_relative "../spec/support/core/outside"

# A million samples in two channels: the shell command from start to answer, against numpy and scipy doing the same
# steps.
class Captures
  SAMPLES = 1_000_000
  # The child's peak, told on standard error when it ends.
  PEAK = "at_exit { warn File.read('/proc/self/status')[/VmHWM:\\s+(\\d+)/, 1] }"

  def initialize(figures)
    @figures = figures
  end

  def run
    Dir.mktmpdir do |folder|
      path = File.join(folder, "million.csv")
      write(path)
      # In turn, because a busy machine's speed drifts; the best of three counts for either.
      times =
        Array.new(3) { [Benchmark.realtime { analyse(path) }, Outside.scipy? && Benchmark.realtime { scipy(path) }] }
      tell(*times.transpose.map { |each| each.select { |time| time }.min })
    end
  end

  private

  def write(path)
    random = Random.new(1)
    phase = 0.0
    File.open(path, "w") do |file|
      file.puts "Time (ms),CH1 (mV),CH2 (V)"
      SAMPLES.times do |i|
        turns = 1.0 + (1e-6 * i)
        phase += turns * 48 / 50_000
        volt = phase.floor % 48 == 16 ? 0.0 : turns * 400 * Math.sin(2 * Math::PI * phase)
        file.puts "#{(i * 0.02).round(2)},#{(volt + (random.rand * 4) - 2).round(1)},#{(i % 7) * 0.1}"
      end
    end
  end

  def analyse(path)
    clean = { "RUBYOPT" => nil, "RUBYLIB" => nil, "BUNDLE_WITHOUT" => "web:test:lint" }
    command = [RbConfig.ruby, "-e", "#{PEAK}; load ARGV.shift", File.expand_path("../bin/gadwall", __dir__)]
    options = %w[--signal wheel_speed --teeth 48 --sensor passive]
    answer, peak = Open3.capture3(clean, *command, "capture", path, *options)
    @missing = JSON.parse(answer)["findings"].map { |row| row["teeth"] }
    @peak_mb = peak.to_i / 1024
  end

  def scipy(path)
    @scipy = Outside.python("capture_steps.py", path, "48")
  end

  def tell(ours, theirs)
    @figures.tell("a million samples in two channels read and analysed", ours, 4, "s", digits: 2)
    @figures.tell("memory of that", @peak_mb, 400, "MB", digits: 0)
    @figures.hold("its missing tooth is 17", @missing == [[17]])
    return unless theirs

    @figures.tell(
      "the same as a multiple of numpy and scipy",
      ours / theirs,
      2,
      "times",
      digits: 2,
      note: "(theirs #{format("%.2f", theirs)} s, missing tooth #{@scipy["missing"].join})"
    )
  end
end
