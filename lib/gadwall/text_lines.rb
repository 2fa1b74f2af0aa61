# frozen_string_literal: true

module Gadwall
  # Lines of a file that somebody handed in, none longer than a table's line can be: a file without line ends must not
  # be taken for one line and held in memory whole.
  module TextLines
    MOST_BYTES = 16_384
    CHUNK_BYTES = 1 << 16
    ENDS = /\r\n|\n|\r/

    # The next line with its end, or nil after the last. io: answers gets(separator, limit); number: of that line, for
    # the message. Raises InputError for a line that is too long.
    def self.next(io, number)
      line = io.gets("\n", MOST_BYTES + 1) or return
      raise too_long(number, line) if line.bytesize > MOST_BYTES && !line.end_with?("\n")

      line
    end

    # Yields each line without its end, whatever ends it (LF, CR LF, CR), with its number from 1. io: answers
    # read(bytes). Raises InputError for a line that is too long.
    def self.each(io)
      number = 0
      rest = +""
      while (chunk = io.read(CHUNK_BYTES))
        rest << chunk.force_encoding(Encoding::BINARY)
        next if rest.end_with?("\r") # its LF may come yet

        *whole, rest = rest.split(ENDS, -1)
        whole.each { |line| yield line, number += 1 }
        rest ||= +""
        raise too_long(number + 1, rest) if rest.bytesize > MOST_BYTES
      end
      rest.split(ENDS).each { |line| yield line, number += 1 }
    end

    # The first line that says something: neither empty nor a remark. io: answers read and rewind; it is rewound.
    # Returns text, "" where there is none in the first part of the file.
    def self.first(io)
      head = io.read(CHUNK_BYTES).to_s
      io.rewind
      head.split(ENDS).find { |line| !line.strip.empty? && !line.start_with?("#") }.to_s
    end

    def self.too_long(number, line)
      InputError.new(
        field: "line #{number}, column #{MOST_BYTES + 1}",
        given: line[0, 40].scrub("?"),
        expected: "lines of at most #{MOST_BYTES} characters"
      )
    end
    private_class_method :too_long
  end
end
