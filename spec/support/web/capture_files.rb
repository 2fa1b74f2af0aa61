# frozen_string_literal: true

require "stringio"
require_relative "../core/tone_ring"

# Texts of captures as a scope writes them, of simulated rings.
module CaptureFiles
  def csv(times, values)
    "time_s,CH1 (V)\n#{times.zip(values).map { |time, volt| format("%.6f,%.5f", time, volt) }.join("\n")}\n"
  end

  # Two and more turns of a coil at a ring of 48 teeth. ring: as ToneRing takes it.
  def wheel(**ring)
    csv(*ToneRing.new(48, **ring).passive(->(_) { 1.5 }, 3.0, 5000, volt: 1.0))
  end

  # A capture as a form hands it in. content: text.
  def upload(content, name: "turn.csv")
    Rack::Test::UploadedFile.new(StringIO.new(content), "text/csv", original_filename: name)
  end

  # Waits until the block says so.
  def wait_for(seconds = 30)
    now = -> { Process.clock_gettime(Process::CLOCK_MONOTONIC) }
    ending = now.call + seconds
    sleep 0.05 until yield || now.call > ending
    raise "waited #{seconds} s" unless yield
  end
end
