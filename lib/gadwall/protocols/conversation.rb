# frozen_string_literal: true

module Gadwall
  module Protocols
    # One module as a log shows it: what it was asked, what it answered, codes and identifiers (ISO 14229-1; ISO
    # 15031-5; from memory). The last answer to each kind of question counts.
    class Conversation
      IDENTIFIERS = {
        0xF187 => "part_number",
        0xF18C => "serial",
        0xF189 => "software",
        0xF190 => "vin",
        0xF191 => "hardware",
        0xF197 => "name"
      }.freeze
      LEGISLATED = { 0x43 => %w[confirmedDTC], 0x47 => %w[pendingDTC], 0x4A => %w[confirmedDTC] }.freeze
      READ_CODES = 0x59
      CODE_REPORTS = [0x02, 0x0A, 0x0B, 0x0C, 0x0D, 0x0E, 0x13, 0x15].freeze
      READ_DATA = 0x62
      NEGATIVE = 0x7F
      PENDING = 0x78

      # A code as read. status: TroubleCodes::StatusByte or nil; words: status in words where there is no byte.
      Read = Struct.new(:word, :status, :words, keyword_init: true)

      attr_reader :bus, :request_id, :extended, :answer_id, :identifiers, :refusals

      def initialize(bus, request_id, extended)
        @bus = bus
        @request_id = request_id
        @extended = extended
        @asked = false
        @answer_id = nil
        @reports = {}
        @identifiers = {}
        @refusals = {}
        @broken = nil
        @pending = false
        @spoke = false
      end

      # Notes that somebody asked this module.
      def asked!
        @asked = true
      end

      # Was it asked?
      def asked?
        @asked
      end

      # Did it answer?
      def answered?
        !@answer_id.nil? && !waiting?
      end

      # Did it say 'wait', and then nothing more, though it never said anything else?
      def waiting?
        @pending && !@spoke
      end

      # data: bytes of a whole answer; id: that it came from.
      def answer(id, data)
        @answer_id = id
        @pending = data[0] == NEGATIVE && data[2] == PENDING
        @spoke ||= !@pending
        @broken = nil unless data[0] == NEGATIVE
        case data[0]
        when NEGATIVE
          refuse(data)
        when READ_CODES
          codes_by_service(data)
        when *LEGISLATED.keys
          codes_by_law(data)
        when READ_DATA
          identify(data)
        end
      end

      # An answer that never came whole. error: "sequence" or "incomplete".
      def break_off(id, error)
        @answer_id = id
        @pending = false
        @spoke = true
        @broken = error
      end

      # What of the last answer is missing, or nil.
      attr_reader :broken

      # Array of Read, each code once, those with a status byte before those without.
      def codes
        @reports.values.flatten.uniq { |read| read.word.to_s }
      end

      private

      def refuse(data)
        @refusals[format("%02X", data[1] || 0)] = format("%02X", data[2] || 0) unless data[2] == PENDING
      end

      def codes_by_service(data)
        return unless CODE_REPORTS.include?(data[1])

        @reports[[:service, data[1]]] = data
          .drop(3)
          .each_slice(4)
          .select { |slice| slice.size == 4 }
          .reject { |slice| slice.first(3).all?(&:zero?) }
          .map do |high, low, type, status|
            Read.new(
              word: TroubleCodes::CodeWord.from_bytes([high, low, type]),
              status: TroubleCodes::StatusByte.new(status)
            ).freeze
          end
      end

      # On CAN the number of codes comes first.
      def codes_by_law(data)
        words =
          data
            .drop(2)
            .each_slice(2)
            .select { |pair| pair.size == 2 }
            .first(data[1].to_i)
            .reject { |pair| pair.all?(&:zero?) }
        @reports[[:law, data[0]]] = words.map do |pair|
          Read.new(word: TroubleCodes::CodeWord.from_bytes(pair), words: LEGISLATED.fetch(data[0])).freeze
        end
      end

      def identify(data)
        name = IDENTIFIERS[((data[1] || 0) << 8) | (data[2] || 0)] or return
        text = data.drop(3).pack("C*").force_encoding("ASCII-8BIT").gsub(/[^\x20-\x7E]/n, "").strip
        @identifiers[name] = text.force_encoding("UTF-8") unless text.empty?
      end
    end
  end
end
