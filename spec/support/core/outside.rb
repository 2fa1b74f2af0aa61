# frozen_string_literal: true

require "json"
require "open3"
require "tempfile"

# Programs that are not ours, for the same work: numpy and scipy for signals, tshark for frames. Debian's packages,
# which bin/setup test installs; where they are missing the specs that need them are pending.
module Outside
  FOLDER = File.expand_path("../outside", __dir__)
  PYTHON = "/usr/bin/python3"

  def self.scipy?
    @scipy = system(PYTHON, "-c", "import scipy", out: File::NULL, err: File::NULL) if @scipy.nil?
    @scipy
  end

  def self.tshark?
    @tshark = system("command -v tshark > /dev/null") if @tshark.nil?
    @tshark
  end

  # A script of spec/support/outside. Returns its JSON.
  def self.python(script, *arguments, input: "")
    out, err, status = Open3.capture3(PYTHON, File.join(FOLDER, script), *arguments, stdin_data: input)
    status.success? ? JSON.parse(out) : raise("#{script}: #{err}")
  end

  # What tshark makes of a bus log. decode: protocols, {"can.subdissector" => "iso15765"}; fields: names. Returns rows
  # of texts.
  def self.tshark(log, decode, fields)
    Tempfile.create(%w[bus .log]) do |file|
      file.write(log)
      file.flush
      rules = decode.flat_map { |layer, protocol| ["-d", "#{layer},#{protocol}"] }
      out, err, status =
        Open3.capture3(
          "tshark",
          "-r",
          file.path,
          *rules,
          "-T",
          "fields",
          "-E",
          "separator=|",
          *fields.flat_map { |field| ["-e", field] }
        )
      status.success? ? out.lines.map { |line| line.chomp.split("|", -1) } : raise("tshark: #{err}")
    end
  end
end
