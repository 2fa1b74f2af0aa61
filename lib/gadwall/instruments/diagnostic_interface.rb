# frozen_string_literal: true

module Gadwall
  # The outside devices of this work, behind small interfaces: what a real adapter would be held to, and what the
  # simulated ones are (docs/instruments.md).
  module Instruments
    # A tool's side of the diagnostic protocol (ISO 14229-1, from memory) over any link.
    #
    # A link answers `exchange(id, bytes)`: it sends one request and returns [[id of the answer, bytes], ...], whole
    # messages without 'response pending', [] where nobody answers in time. It may raise Lost.
    class DiagnosticInterface
      # The connection is gone. What was read before stays read.
      class Lost < Gadwall::Error
      end

      # One module as it was read. codes: [[TroubleCodes::CodeWord, TroubleCodes::StatusByte], ...]; identifiers: {name
      # => text}; refused: {service => negative response}.
      Read = Struct.new(:request_id, :response_id, :codes, :identifiers, :refused, keyword_init: true)
      # An answer: positive?, its bytes, or the negative response as two hexadecimal digits.
      Answer = Struct.new(:positive, :bytes, :refusal, keyword_init: true)

      IDENTIFIERS = {
        "vin" => 0xF190,
        "part_number" => 0xF187,
        "hardware" => 0xF191,
        "software" => 0xF189,
        "name" => 0xF197
      }.freeze
      EXTENDED = 0x03

      # link: as above.
      def initialize(link)
        @link = link
      end

      # Who is there: ids of requests, asked of everybody.
      def modules
        @link
          .exchange(Protocols::Addresses::FUNCTIONAL_11, [0x3E, 0x00])
          .map { |id, _| id - Protocols::Addresses::OFFSET }
          .uniq
      end

      # Reads every module, one after the other. request_ids: those to ask, all that are there where nil. Yields how
      # many of how many are read. Returns [Array of Read, sentence of what broke it off, or nil].
      def scan(request_ids = nil)
        ids = request_ids || modules
        read = []
        ids.each_with_index do |id, i|
          each = read_module(id)
          read << each if each
          yield i + 1, ids.size if block_given?
        end
        [read, nil]
      rescue Lost => error
        [read || [], error.message]
      end

      # Identification and codes of one module: Read, or nil where it does not answer. mask: of status bits.
      def read_module(id, mask: 0xFF)
        first = ask(id, [0x22, *word(IDENTIFIERS.fetch("vin"))]) or return nil
        refused = {}
        identifiers = identify(id, first, refused)
        Read.new(
          request_id: id,
          response_id: id + Protocols::Addresses::OFFSET,
          codes: codes_of(id, mask, refused),
          identifiers: identifiers,
          refused: refused
        ).freeze
      end

      # Erases the codes of a module. Returns an Answer, or nil.
      def clear(id)
        ask(id, [0x14, 0xFF, 0xFF, 0xFF])
      end

      # A value by its identifier. did: Integer. Returns the bytes, or nil.
      def read_data(id, did)
        answer = ask(id, [0x22, did >> 8, did & 0xFF])
        answer.bytes.drop(3) if answer&.positive
      end

      # Starts a routine in the extended session. Returns an Answer, or nil.
      def routine(id, routine)
        extended(id) or return nil
        ask(id, [0x31, 0x01, routine >> 8, routine & 0xFF])
      end

      # Takes control of a pump, valve or motor for a moment, and gives it back (service 2F, 03 and 00). did: Integer.
      # Returns the Answer to taking it, or nil.
      def actuate(id, did)
        extended(id) or return nil
        answer = ask(id, [0x2F, did >> 8, did & 0xFF, 0x03])
        ask(id, [0x2F, did >> 8, did & 0xFF, 0x00]) if answer&.positive
        answer
      end

      # Writes data behind security access. key: takes the seed, gives the key. Returns an Answer, or nil.
      def write(id, did, bytes)
        extended(id) or return nil
        seed = ask(id, [0x27, 0x01])
        return seed unless seed&.positive

        key = yield((seed.bytes[2] << 8) | seed.bytes[3])
        opened = ask(id, [0x27, 0x02, key >> 8, key & 0xFF])
        return opened unless opened&.positive

        ask(id, [0x2E, did >> 8, did & 0xFF, *bytes])
      end

      # Sends one request to one module. Returns an Answer, or nil where nobody answers.
      def ask(id, bytes)
        _, data = @link.exchange(id, bytes).last
        return unless data
        return Answer.new(positive: false, bytes: data, refusal: format("%02X", data[2])).freeze if data[0] == 0x7F

        Answer.new(positive: true, bytes: data).freeze
      end

      private

      def word(number)
        [number >> 8, number & 0xFF]
      end

      # {name => text} of what it says of itself. first: its answer to the first of them.
      def identify(id, first, refused)
        IDENTIFIERS
          .filter_map do |name, did|
            answer = name == "vin" ? first : ask(id, [0x22, *word(did)])
            next (refused["22"] = answer.refusal) && nil if answer && !answer.positive

            [name, answer.bytes.drop(3).pack("C*").force_encoding("UTF-8").scrub("?")] if answer
          end
          .to_h
      end

      def extended(id)
        ask(id, [0x10, EXTENDED])&.positive
      end

      def codes_of(id, mask, refused)
        answer = ask(id, [0x19, 0x02, mask])
        return [] unless answer
        return [].tap { refused["19"] = answer.refusal } unless answer.positive

        answer
          .bytes
          .drop(3)
          .each_slice(4)
          .filter_map do |high, low, type, status|
            [TroubleCodes::CodeWord.from_bytes([high, low, type]), TroubleCodes::StatusByte.new(status)] if status
          end
      end
    end
  end
end
