# frozen_string_literal: true

module Gadwall
  module Calculators
    # Code words, identification and flashes (data/sums/codes.yml).
    module CodeSums
      module_function

      # Bytes in hexadecimal.
      def code_bytes(code:)
        word = TroubleCodes::CodeWord.parse(code, field: "code")
        Book.result(word.bytes.map { |byte| format("%02X", byte) }.join(" "), more: type_of(word))
      end

      # The word; with failure type and status.
      def bytes_code(bytes:)
        values = Book.bytes("bytes", bytes)
        unless values.size.between?(2, 4)
          raise InputError.new(field: "bytes", given: bytes, expected: "two to four bytes, such as 40 34 13 2F")
        end

        word = TroubleCodes::CodeWord.from_bytes(values.first(3))
        status = values[3] && ["status", TroubleCodes::StatusByte.new(values[3]).word.tr("_", " "), ""]
        Book.result(word.to_s, more: [*type_of(word), status].compact)
      end

      # The word; with its bits.
      def status_bits(byte:)
        status = TroubleCodes::StatusByte.parse(byte, field: "byte")
        bits = TroubleCodes::StatusByte::BITS.each_index.select { |i| status.value[i] == 1 }
        Book.result(
          status.word.tr("_", " "),
          more: bits.map { |i| ["bit #{i}", TroubleCodes::StatusByte::BITS[i], ""] }
        )
      end

      # In words; with what the ninth place should be.
      def vin_check(vin:)
        text = vin.strip.upcase
        unless Vehicle::VIN.well_formed?(text)
          raise InputError.new(field: "vin", given: vin, expected: "17 letters and digits without I, O, Q")
        end

        right = Vehicle::VIN.check_digit_right?(text)
        sum = Vehicle::VIN.weighted_sum(text)
        Book.result(
          right ? "check digit right" : "check digit wrong",
          more: [["sum", sum, ""], ["ninth place should be", Vehicle::VIN.check_digit(text), ""]]
        )
      end

      # Text.
      def hex_text(hex:)
        Book.result(Book.bytes("hex", hex).map { |byte| byte.between?(0x20, 0x7E) ? byte.chr : "." }.join)
      end

      # Codes in their order.
      def flash_code(pauses:)
        times = Book.numbers("pauses", pauses)
        read = TroubleCodes::FlashCodes.read(flashes(times))
        Book.result(
          read.codes.map(&:code).join(", "),
          more: read.codes.map { |each| ["code #{each.code}", "#{each.times} times", ""] }
        )
      end

      # [[on, off], ...] in milliseconds, from times on, off, on, ...
      def flashes(times)
        now = 0.0
        times
          .each_slice(2)
          .map do |on, off|
            flash = [now * 1000, (now + on) * 1000]
            now += on + off.to_f
            flash
          end
      end

      def type_of(word)
        text = word.failure_type && Knowledge.catalogue.failure_types.dig(word.failure_type, "text")
        text ? [["failure type #{word.failure_type}", text, ""]] : []
      end
    end
  end
end
