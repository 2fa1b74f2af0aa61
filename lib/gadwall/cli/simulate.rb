# frozen_string_literal: true

module Gadwall
  module CLI
    # `bin/gadwall simulate`: a session with the simulated vehicle through the diagnostic protocol.
    class Simulate < Command
      USAGE = [
        "simulate VEHICLE.json [--fault FAULT] ... [--seed N] [--session SESSION] [--log FILE]",
        "a session with the simulated vehicle: scan, clear, live, routine:ID, write:DID=HEX; its traffic as a bus log"
      ].freeze

      private

      def declare(parser)
        @faults = []
        parser.on("--fault FAULT") { |fault| @faults << fault }
        parser.on("--seed N") { |seed| once!(:seed, seed) }
        parser.on("--session SESSION") { |session| once!(:session, session) }
        parser.on("--log FILE") { |path| once!(:log, path) }
      end

      def answer(path)
        seed = options[:seed] ? whole("--seed", options[:seed]) : 1
        session = SimulateFile.new(text_of(path), faults: @faults, seed: seed)
        told = session.run(options.fetch(:session, "scan"))
        writing("--log", options[:log]) { File.write(options[:log], session.log) } if options[:log]
        told
      end
    end
  end
end
