# frozen_string_literal: true

module Gadwall
  module CLI
    # `bin/gadwall capture`: what a sampled signal tells. --view writes the samples as the viewer takes them, and prints
    # more fields; --progress tells on standard error.
    class Capture < Command
      USAGE = [
        "capture FILE --signal wheel_speed [--teeth N] [--sensor passive|active] [--channel NAME] " \
          "[--circumference METRES]",
        "what a sampled wheel-speed signal (CSV or VCD) tells of ring, sensor and wiring",
        "capture FILE --signal motor_current|pump_pressure [--channel NAME]",
        nil,
        "capture FILE --signal live_data [--columns JSON]",
        "each with [--view FILE] for what a page draws, and [--progress]"
      ].freeze
      NAMES = %w[signal teeth sensor channel circumference columns view].freeze

      private

      def declare(parser)
        NAMES.each { |name| parser.on("--#{name} TEXT") { |text| once!(name, text) } }
        parser.on("--progress") { @progress = ->(share) { @err.puts "progress #{share.round(3)}" } }
      end

      def fits?(rest)
        super && options.key?("signal")
      end

      def answer(path)
        known!(options["signal"])
        return Signals::CaptureFile.analyse(path, options) unless options["view"]

        analysis, trace = Signals::CaptureFile.view(path, options, on_progress: @progress)
        writing("--view", options["view"]) { File.binwrite(options["view"], trace.to_bytes) }
        analysis
      end

      # A kind of signal that there is none of is wrong usage, not a bad file.
      def known!(signal)
        return if Signals::CaptureFile::SIGNALS.include?(signal)

        @err.puts UnknownNameError.new(field: "--signal", given: signal, known: Signals::CaptureFile::SIGNALS).message
        raise WrongUsage
      end
    end
  end
end
