# frozen_string_literal: true

module Gadwall
  module Simulator
    # The wire between a tool and a simulated vehicle: messages go over it in frames, and every frame is kept as a line
    # of a bus log. An Instruments::Link.
    class Link
      BUS = "can0"
      TRAILER_BUS = "can1"
      FRAME_S = 0.0005
      ANSWER_S = 0.01 # common practice: P2 is 50 ms at the most
      START = 1_700_000_000.0

      # Lines of the log so far.
      attr_reader :log

      # vehicle: Simulator::VehicleUnderTest.
      def initialize(vehicle)
        @vehicle = vehicle
        @servers = vehicle.ecus.to_h { |ecu| [ecu.id, Protocol::UdsServer.new(vehicle, ecu)] }
        @log = []
        @now = START
      end

      # Sends a request and returns what came back. id: of the request (7DF for everybody); bytes: Array of Integer.
      # Returns [[id of the answer, bytes], ...] without 'response pending'; [] where nobody answers.
      def exchange(id, bytes)
        put(id, bytes, id == Protocols::Addresses::FUNCTIONAL_11 ? nil : id + Protocols::Addresses::OFFSET)
        answers = asked(id).flat_map { |ecu| answers_of(ecu, id, bytes) }
        answers.reject { |_, data| data[0] == 0x7F && data[2] == 0x78 }
      end

      # Active codes that trailer and truck broadcast: frames on their bus. Returns how many.
      def broadcast
        heavy = @vehicle.speaking.select { |ecu| ecu.record["address"] }
        heavy.sum do |ecu|
          Protocol::Dm1
            .frames(ecu.record["address"], heavy_codes(ecu))
            .each { |id, data| frame(TRAILER_BUS, id, data) }
            .size
        end
      end

      # The log as text.
      def to_s
        "#{log.join("\n")}\n"
      end

      private

      def asked(id)
        return @vehicle.speaking if id == Protocols::Addresses::FUNCTIONAL_11

        @vehicle.speaking.select { |ecu| ecu.request_id == id }
      end

      def answers_of(ecu, id, bytes)
        @now += ANSWER_S
        replies = @servers.fetch(ecu.id).answer(bytes, functional: id == Protocols::Addresses::FUNCTIONAL_11)
        replies.map do |reply|
          put(ecu.response_id, reply, ecu.request_id)
          [ecu.response_id, reply]
        end
      end

      # A message in frames; the other side lets a long one through.
      def put(id, bytes, flow_id)
        frames = Protocol::IsoTp.frames(bytes)
        frame(BUS, id, frames.first)
        return if frames.size == 1

        frame(BUS, flow_id || id, Protocol::IsoTp.flow_control)
        frames.drop(1).each { |data| frame(BUS, id, data) }
      end

      def frame(bus, id, data)
        @now += FRAME_S
        width = id > 0x7FF ? 8 : 3
        @log << format(
          "(%<time>.6f) %<bus>s %<id>0#{width}X#%<data>s",
          time: @now,
          bus: bus,
          id: id,
          data: data.map { |byte| format("%02X", byte) }.join
        )
      end

      # Suspect parameters of the circuits whose monitors fail (SAE J1939-71 numbers of data/codes/j1939.yml).
      def heavy_codes(ecu)
        rows = @vehicle.system.catalogue.j1939
        failing = ecu.circuits.select { |circuit| @vehicle.monitored(circuit).values.any? }
        failing.filter_map do |circuit|
          spn = rows.values.find { |row| (row["circuits"] || []).include?(circuit.id) }&.fetch("id")
          [spn.to_i, 5, 1] if spn
        end
      end
    end
  end
end
