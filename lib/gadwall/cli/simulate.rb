# frozen_string_literal: true

module Gadwall
  module CLI
    # `bin/gadwall simulate`: a session with the simulated vehicle through the diagnostic protocol.
    class Simulate < Command
      USAGE = [
        "simulate VEHICLE.json [--fault FAULT] ... [--seed N] [--session SESSION] [--log FILE]",
        "a session with the simulated vehicle: scan, clear, live, routine:ID, write:DID=HEX; its traffic as a bus log",
        "simulate VEHICLE.json [--fault FAULT] ... [--seed N] --listen PATH|PORT [--real-time]",
        "its bus as lines both ways (docs/formats/bus.md)"
      ].freeze

      private

      # Serves instead of answering where --listen is given.
      def act(rest)
        return super unless options[:listen]
        raise WrongUsage unless rest.size == 1 && !options[:session] && !options[:log]

        serve(rest.first)
      end

      def declare(parser)
        @faults = []
        parser.on("--fault FAULT") { |fault| @faults << fault }
        parser.on("--seed N") { |seed| once!(:seed, seed) }
        parser.on("--session SESSION") { |session| once!(:session, session) }
        parser.on("--log FILE") { |path| once!(:log, path) }
        parser.on("--listen PLACE") { |place| once!(:listen, place) }
        parser.on("--real-time") { options[:real_time] = true }
      end

      # Each client finds the vehicle as it came in.
      def serve(path)
        text = text_of(path)
        file = -> { SimulateFile.new(text, faults: @faults, seed: seed) }
        file.call
        clock = @clock if options[:real_time]
        BusServer.new(options[:listen], out: @out, clock: clock) { file.call.listener(real_time: !clock.nil?) }.run
      end

      def seed
        options[:seed] ? whole("--seed", options[:seed]) : 1
      end

      def answer(path)
        raise WrongUsage if options[:real_time]

        session = SimulateFile.new(text_of(path), faults: @faults, seed: seed)
        told = session.run(options.fetch(:session, "scan"))
        writing("--log", options[:log]) { File.write(options[:log], session.log) } if options[:log]
        told
      end
    end
  end
end
