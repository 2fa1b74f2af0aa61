# frozen_string_literal: true

module Gadwall
  module Protocols
    # Reads the plain-text log that SocketCAN's logging tool writes, one frame a line:
    #   (1700000000.123456) can0 7E8#0322F1900000000000        classic, 11 bits
    #   (1700000000.223456) can1 18DAF110##1620102030405060708  flexible data rate: ## and one digit of flags
    # Empty lines and lines that begin with # are passed over; error frames, remote frames (#R) and a last line that was
    # cut off are passed over and counted.
    class LogReader
      TIME = /\((\d{1,12}(?:\.\d{1,9})?)\)/
      IDENTIFIER = /([0-9A-Fa-f]{3}|[0-9A-Fa-f]{8})/
      FRAME = /\A\s*#{TIME}\s+([\w.-]{1,32})\s+#{IDENTIFIER}#(#[0-9A-Fa-f])?((?:[0-9A-Fa-f]{2})*|R\d?)(?:\s+[TR])?\s*\z/
      MOST_CLASSIC = 8
      MOST_FD = 64

      ERROR_FLAG = 0x20000000 # of SocketCAN's error frames

      # The beginning of a frame, without the end of its line: a log that was cut off there.
      CUT = /\A\s*\(\d*\.?\d*(?:\)\s*(?:[\w.-]+(?:\s+[0-9A-Fa-f]{0,8}(?:##?[0-9A-Fa-f]{0,15})?)?)?)?\z/

      # What a log of a real interface holds beside data, counted by its name: error frames, remote frames, and a last
      # line that was cut off.
      SKIPPED = %w[error_frames remote_frames cut_lines].freeze

      # lines: anything that answers each_line or each; skipped: Hash into which what is passed over is counted. Yields
      # Frames in file order; without a block an Enumerator. Raises InputError that names line and column.
      def self.each(lines, skipped: Hash.new(0), &block)
        return enum_for(:each, lines, skipped: skipped) unless block

        new(skipped).each(lines, &block)
      end

      def initialize(skipped = Hash.new(0))
        @skipped = skipped
      end

      # As LogReader.each. A line that cannot be read is an error, but for the last one of the file.
      def each(lines)
        wrong = last = nil
        (lines.respond_to?(:each_line) ? lines.each_line : lines.each).with_index(1) do |line, number|
          text = line.scrub("?")
          next if text.strip.empty? || text.lstrip.start_with?("#")
          raise wrong if wrong

          last = text
          frame =
            begin
              frame(text, number)
            rescue InputError => error
              wrong = error
              nil
            end
          yield frame if frame && !skipped?(frame)
        end
        return unless wrong
        raise wrong unless CUT.match?(last)

        @skipped["cut_lines"] += 1
      end

      # text: a line; number: its place in the file. Returns a Frame, ERROR or REMOTE. Raises InputError that names line
      # and column.
      def frame(text, number)
        match = FRAME.match(text) or raise refused(text, number)
        time, bus, id, flags, data = match.captures
        remote = data.start_with?("R")
        bytes = remote ? [] : [data].pack("H*").bytes
        return ERROR if id.size == 8 && id.to_i(16).anybits?(ERROR_FLAG) && id.to_i(16) < ERROR_FLAG * 2
        return REMOTE if remote

        most = flags ? MOST_FD : MOST_CLASSIC
        raise at(number, match.begin(5) + 1, data, "at most #{most} bytes of data") if bytes.size > most
        if id.size == 8 && id.to_i(16) > 0x1FFFFFFF
          raise at(number, match.begin(3) + 1, id, "an id of at most 1FFFFFFF")
        end

        Frame.new(
          time_s: time.to_f,
          bus: bus,
          id: id.to_i(16),
          extended: id.size == 8,
          fd: !flags.nil?,
          data: bytes
        ).freeze
      end

      # Frames without data of their own.
      ERROR = :error_frames
      REMOTE = :remote_frames

      private

      def skipped?(frame)
        return false unless frame.is_a?(Symbol)

        @skipped[frame.to_s] += 1
        true
      end

      # Which part is wrong: the first that does not fit.
      def refused(text, number)
        rest = text.chomp
        unless (time = rest.match(/\A\s*#{TIME}\s+/o))
          return(
            at(number, 1, rest, "a time in brackets, a bus and a frame, such as (1700000000.123456) can0 7E8#0322F190")
          )
        end
        bus = rest.match(/[\w.-]{1,32}\s+/, time.end(0))
        unless bus && bus.begin(0) == time.end(0)
          return at(number, time.end(0) + 1, rest[time.end(0)..], "the name of a bus, such as can0")
        end

        id = rest.match(/[0-9A-Fa-f]+/, bus.end(0))
        unless id && id.begin(0) == bus.end(0) && [3, 8].include?(id[0].size) && rest[id.end(0)] == "#"
          return at(number, bus.end(0) + 1, rest[bus.end(0)..], "an id of 3 or 8 hexadecimal digits and #")
        end
        at(number, id.end(0) + 2, rest[(id.end(0) + 1)..], "whole bytes of two hexadecimal digits each")
      end

      def at(number, column, given, expected)
        InputError.new(field: "line #{number}, column #{column}", given: given.to_s[0, 40], expected: expected)
      end
    end
  end
end
