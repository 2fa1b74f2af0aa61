# frozen_string_literal: true

module Gadwall
  module Instruments
    # A tool on a vehicle's bus, message by message: requests in frames as ISO 15765-2 has them, answers put together
    # again, with the times of ISO 14229-2 (from memory). It knows no vehicle; the port under it carries frames and
    # keeps the time (docs/instruments.md):
    #
    #   open, close       the bus, at its bit rate; they may raise DiagnosticInterface::Lost
    #   write(frame)      sends a Protocols::Frame
    #   read(seconds)     Array of Protocols::Frame that came within so long, as soon as any did; [] where none came
    #   now               seconds
    class Adapter
      P2_S = 0.15 # a module answers within 50 ms; the rest is the way there and back
      P2_STAR_S = 5.5 # and within 5 s once it said that it needs longer
      KEPT = 20_000 # lines of the log
      UNASKED = 200 # frames that nobody asked for

      # port: as above; log_time: seconds that the log's clock is ahead of the port's.
      def initialize(port)
        @port = port
        @log = []
        @unasked = []
        @again = Hash.new { |receivers, id| receivers[id] = Protocols::IsoTp::Receiver.new }
      end

      # Joins the bus. Raises DiagnosticInterface::Lost. Returns self.
      def open
        @port.open
        self
      end

      # Leaves the bus.
      def close
        @port.close
      end

      # Sends a request and gives what came back. id: of 11 bits (7DF for everybody) or of 29; bytes: Array of Integer.
      # Returns [[id of the answer, bytes], ...] without 'response pending'; [] where nobody answers in time. Raises
      # DiagnosticInterface::Lost.
      def exchange(id, bytes)
        address = Address.new(id)
        @again.clear
        sender = Protocols::IsoTp::Sender.new
        sender.send_message(bytes, @port.now)
        transmit(address, sender) or return []
        listen(address)
      end

      # Says that somebody is there; no answer is asked for.
      def tester_present(id = Protocols::Addresses::FUNCTIONAL_11)
        put(id, Protocols::IsoTp.single([0x3E, 0x80]))
      end

      # Frames that came unasked since this was called last: Array of Protocols::Frame, the last ones.
      def unasked(seconds = 0.0)
        @port.read(seconds).each { |frame| [note(frame), keep(frame)] } if seconds.positive?
        @unasked.tap { @unasked = [] }
      end

      # The traffic as lines of a bus log, the last ones.
      def log
        @log.dup
      end

      # The same as text.
      def to_s
        @log.map { |line| "#{line}\n" }.join
      end

      # Whom an id reaches, and who may answer. id: Integer.
      Address =
        Struct.new(:id) do
          # Is it of 29 bits?
          def extended?
            id > 0x7FF
          end

          # Does it reach everybody?
          def everybody?
            kind = Protocols::Addresses
            extended? ? [kind::FUNCTIONAL_29, kind::MIXED_FUNCTIONAL_29].include?(id >> 16) : id == kind::FUNCTIONAL_11
          end

          # Is a frame an answer to it?
          def answered_by?(frame)
            return false unless frame.extended == extended?
            return frame.id == answer unless everybody?
            if extended?
              return (frame.id >> 8) == ((Protocols::Addresses::PHYSICAL_29 << 8) | Protocols::Addresses::TOOL)
            end

            Protocols::Addresses::DIAGNOSTIC_11.cover?(frame.id) && frame.id != id
          end

          # The id that one module answers by.
          def answer
            extended? ? Protocols::Addresses.swapped(id) : id + Protocols::Addresses::OFFSET
          end
        end

      private

      # Frame by frame as flow control lets it. Returns whether all went.
      def transmit(address, sender)
        while sender.busy?
          now = @port.now
          return false if sender.expire(now)

          if sender.next_at && sender.next_at <= now
            put(address.id, sender.frame(now))
          else
            hear(address, [(sender.next_at || sender.flow_due) - now, 0.0005].max) do |data|
              sender.take_flow(data, @port.now) if data[0] >> 4 == 3
            end
          end
        end
        true
      end

      def listen(address)
        answers = []
        until_s = @port.now + P2_S
        while (left = until_s - @port.now).positive?
          hear(address, left) do |data, frame|
            message, flow = @again[frame.id].take(data, @port.now)
            put(asked_by(address, frame), flow) if flow
            until_s = [until_s, @port.now + Protocols::IsoTp::N_CR_S].max if @again[frame.id].busy?(@port.now)
            next unless message
            next until_s = @port.now + P2_STAR_S if pending?(message)

            answers << [frame.id, message]
            until_s = address.everybody? ? [until_s, @port.now + P2_S].min : @port.now
          end
        end
        answers
      end

      def pending?(message)
        message[0] == 0x7F && message[2] == 0x78
      end

      # Flow control goes to the module alone, also where everybody was asked.
      def asked_by(address, frame)
        return address.id unless address.everybody?

        Protocols::Addresses.request_of(frame.id, frame.extended)
      end

      # Frames that came: answers go to the block, the rest is kept.
      def hear(address, seconds)
        @port
          .read(seconds)
          .each do |frame|
            note(frame)
            address.answered_by?(frame) && frame.data.any? ? yield(frame.data, frame) : keep(frame)
          end
      end

      def keep(frame)
        @unasked << frame
        @unasked.shift while @unasked.size > UNASKED
      end

      def put(id, data)
        frame =
          Protocols::Frame.new(
            time_s: @port.now,
            bus: @port.bus,
            id: id,
            extended: id > 0x7FF,
            fd: false,
            data: data
          ).freeze
        @port.write(frame)
        note(frame)
      end

      def note(frame)
        @log << frame.to_line
        @log.shift while @log.size > KEPT
      end
    end
  end
end
