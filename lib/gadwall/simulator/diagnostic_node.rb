# frozen_string_literal: true

module Gadwall
  module Simulator
    # A module on the diagnostic bus: messages in and out of frames (ISO 15765-2), by ids of 11 bits and of 29 (ISO
    # 15765-4), in classic frames and in those of flexible data rate.
    class DiagnosticNode
      ALL = [[Protocols::Addresses::FUNCTIONAL_11, false], [0x18DB33F1, true], [0x18DBFFF1, true]].freeze
      FLOW_S = 0.0005 # demo: flow control follows a first frame so soon
      JUST_AFTER_S = 0.001
      BUSY = Uds::NRC.fetch(:busy)

      # One way to speak with a module. id: of its answers; fd: flexible data rate?
      Channel = Struct.new(:id, :extended, :fd, :receiver, :to_all, :sender, keyword_init: true)

      # ecu: Ecu; bus: Bus.
      def initialize(ecu, bus)
        @ecu = ecu
        @bus = bus
        @server = Uds::Server.new(bus.vehicle, ecu, clock: -> { bus.now })
        @channels = {}
        @due = [] # [seconds, channel, :frame or :message, bytes]
        @busy_until = nil
      end

      # Which bus it is on.
      def bus_name
        Bus::DIAGNOSTIC
      end

      # As of a node of Bus.
      def next_at
        ends_at = @server.session_ends_at
        sending = @channels.each_value.map { |each| each.sender.next_at }
        [*@due.map(&:first), *sending, (ends_at + JUST_AFTER_S if ends_at)].compact.min
      end

      # As of a node of Bus.
      def run(now)
        @server.expire
        return fall_silent unless @bus.there?(@ecu)

        place = @due.each_index.min_by { |i| @due[i].first }
        if place && @due[place].first <= now
          _, channel, kind, bytes = @due.delete_at(place)
          return frame(channel, bytes, now) if kind == :frame

          channel.sender.send_message(bytes, now)
        end
        channel = @channels.each_value.find { |each| each.sender.next_at&.<= now }
        channel && frame(channel, channel.sender.frame(now), now)
      end

      # As of a node of Bus.
      def take(frame)
        return if frame.bus != bus_name || frame.data.empty?

        to_all = ALL.include?([frame.id, frame.extended])
        return unless (to_all || mine?(frame)) && @bus.there?(@ecu)

        heard(channel_of(frame), frame.data, to_all)
      end

      private

      def mine?(frame)
        frame.id == (frame.extended ? physical : @ecu.request_id)
      end

      # 18DA, its node, the tool.
      def physical
        (Protocols::Addresses::PHYSICAL_29 << 16) | (@ecu.node << 8) | Protocols::Addresses::TOOL
      end

      def channel_of(frame)
        @channels[[frame.extended, frame.fd]] ||= Channel.new(
          id: frame.extended ? Protocols::Addresses.swapped(physical) : @ecu.response_id,
          extended: frame.extended,
          fd: frame.fd,
          receiver: Protocols::IsoTp::Receiver.new,
          to_all: Protocols::IsoTp::Receiver.new(alone: true),
          sender: Protocols::IsoTp::Sender.new(size: frame.fd ? Protocols::IsoTp::FD : Protocols::IsoTp::CLASSIC)
        )
      end

      def heard(channel, data, to_all)
        now = @bus.now
        channel.sender.expire(now)
        return channel.sender.take_flow(data, now) if data[0] >> 4 == 3

        message, flow = (to_all ? channel.to_all : channel.receiver).take(data, now)
        @due << [now + FLOW_S, channel, :frame, flow] if flow
        asked(channel, message, to_all) if message
      end

      # While it works on one request it is busy for others; who only says that he is there is heard.
      def asked(channel, message, to_all)
        now = @bus.now
        if @busy_until && now < @busy_until
          return if to_all || message.first == 0x3E

          return @due << [now + Uds::Server::ANSWER_S, channel, :message, [Uds::NEGATIVE, message.first, BUSY]]
        end

        channel.sender.stop if channel.sender.flow_due # who asks anew does not wait for the last answer's rest
        replies = @server.replies(message, functional: to_all)
        replies.each { |after, bytes| @due << [now + after, channel, :message, bytes] }
        @busy_until = replies.size > 1 ? now + replies.last.first : nil
      end

      def fall_silent
        @due.clear
        @channels.clear
        @busy_until = nil
      end

      def frame(channel, bytes, now)
        Protocols::Frame.new(
          time_s: now,
          bus: bus_name,
          id: channel.id,
          extended: channel.extended,
          fd: channel.fd,
          data: bytes
        ).freeze
      end
    end
  end
end
