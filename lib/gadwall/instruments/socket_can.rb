# frozen_string_literal: true

require "io/wait"
require "socket"

module Gadwall
  module Instruments
    # A port of Adapter on a CAN interface of Linux (SocketCAN, by the raw socket of Ruby's standard library). The bit
    # rate is the interface's own, set by whoever runs the machine: `ip link set can0 up type can bitrate 500000`.
    class SocketCan
      FAMILY = 29 # AF_CAN of linux/socket.h
      RAW = 1 # CAN_RAW of linux/can.h
      LEVEL = 101 # SOL_CAN_RAW of linux/can/raw.h
      FD_FRAMES = 5 # CAN_RAW_FD_FRAMES
      EXTENDED = 0x80000000
      REMOTE = 0x40000000
      ERROR = 0x20000000
      CLASSIC_BYTES = 16 # struct can_frame: id, length, three of padding, eight of data
      FD_BYTES = 72 # struct canfd_frame
      SWITCHES = 0x01 # CANFD_BRS

      # Name of the interface.
      attr_reader :bus

      # bus: name of an interface, "can0"; clock: gives seconds.
      def initialize(bus, clock:)
        @bus = bus
        @clock = clock
      end

      # Names of the machine's CAN interfaces.
      def self.interfaces
        Dir["/sys/class/net/*"].select { |path| can?(path) }.map { |path| File.basename(path) }.sort
      end

      # ARPHRD_CAN is 280.
      def self.can?(path)
        File.read(File.join(path, "type")).strip == "280"
      rescue SystemCallError
        false
      end
      private_class_method :can?

      # As of a port. Raises DiagnosticInterface::Lost.
      def open
        @socket = Socket.new(FAMILY, Socket::SOCK_RAW, RAW)
        @socket.setsockopt(LEVEL, FD_FRAMES, [1].pack("i"))
        @socket.bind(SocketCan.address(index))
      rescue SystemCallError => error
        close
        raise lost(error)
      end

      def close
        @socket&.close
        @socket = nil
      end

      def now
        @clock.call
      end

      # frame: Protocols::Frame. Raises DiagnosticInterface::Lost.
      def write(frame)
        @socket.write(SocketCan.packed(frame))
      rescue SystemCallError, IOError => error
        raise lost(error)
      end

      # As of a port.
      def read(seconds)
        return [] unless @socket.wait_readable([seconds, 0.0].max)

        frames = []
        while (bytes = @socket.read_nonblock(FD_BYTES, exception: false)).is_a?(String)
          frames << SocketCan.unpacked(bytes, now, @bus)
        end
        frames.compact
      rescue SystemCallError, IOError => error
        raise lost(error)
      end

      # struct sockaddr_can: family, two of padding, index of the interface, sixteen for the protocol's own.
      def self.address(index)
        [FAMILY, index].pack("Sx2ix16")
      end

      # A frame as the kernel takes it.
      def self.packed(frame)
        id = frame.id | (frame.extended ? EXTENDED : 0)
        size = frame.fd ? 64 : 8
        flags = frame.fd ? SWITCHES : 0
        [id, frame.data.size, flags, frame.data.pack("C*")].pack("LCCx2a#{size}")
      end

      # A frame of data as the kernel gives it, nil for others. time_s: seconds; bus: name.
      def self.unpacked(bytes, time_s, bus)
        fd = bytes.bytesize == FD_BYTES
        return unless fd || bytes.bytesize == CLASSIC_BYTES

        id, length = bytes.unpack("LC")
        return if id.anybits?(REMOTE | ERROR)

        extended = id.anybits?(EXTENDED)
        Protocols::Frame.new(
          time_s: time_s,
          bus: bus,
          id: id & (extended ? 0x1FFFFFFF : 0x7FF),
          extended: extended,
          fd: fd,
          data: bytes.byteslice(8, [length, bytes.bytesize - 8].min).bytes
        ).freeze
      end

      private

      def index
        Integer(File.read("/sys/class/net/#{File.basename(@bus)}/ifindex"))
      end

      def lost(error)
        DiagnosticInterface::Lost.new("The CAN interface #{@bus} cannot be used: #{error.message}.")
      end
    end
  end
end
