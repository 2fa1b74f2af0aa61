# frozen_string_literal: true

module Gadwall
  module Codes
    # Reads what a code claims on this vehicle: which circuit, what kind of fault. The technician's word goes first, then
    # the maker's text, then the standard's meaning.
    class CodeReader
      CORNER_WORDS = {
        /\b(?:left front|front left|front,? l(?:eft)?|lf|fl)\b/i => "front_left", /\b(?:right front|front right|rf|fr)\b/i => "front_right",
        /\b(?:left rear|rear left|lr|rl)\b/i => "rear_left", /\b(?:right rear|rear right|rr)\b/i => "rear_right", /\brear axle\b/i => "rear_axle"
      }.freeze
      SIDE_WORDS = /\b(near ?side|off ?side|driver(?:'s)?(?: side)?|passenger(?:'s)?(?: side)?)\b/i
      CLAIM_WORDS = {
        /short(?:ed)? to (?:ground|earth|minus)/i => "short_to_ground", /short(?:ed)? to (?:battery|supply|plus|positive)/i => "short_to_supply",
        /ground or open/i => "ground_or_open", /\bopen\b|interrupt|broken/i => "open", /no signal|missing signal|signal missing|no pulses/i => "no_signal",
        /implausib|erratic|plausib|irregular|tone (?:wheel|ring)|intermittent signal|jumps/i => "implausible", /electrical|circuit/i => "electrical",
        /internal/i => "internal", /lost communication|no communication/i => "lost_message", /(?:supply|system|battery) voltage (?:low|below)|under ?voltage/i => "supply_low"
      }.freeze

      def initialize(sheet, catalogue)
        @sheet = sheet
        @catalogue = catalogue
      end

      # row: {"code", "failure_type", "status", "text", "circuit", "claim"}, Strings or nil. Returns an Evidence::CodeSeen;
      # circuit_id is nil where neither text nor catalogue tells. Raises InputError for what no code can be.
      def read(row, field: "code", seq: 0)
        word = CodeWord.parse([row["code"], row["failure_type"]].compact.reject(&:empty?).join("-"), field: field)
        known = @catalogue.chassis_codes[word.text]
        Evidence::CodeSeen.new(seq: seq, code: word.text, failure_type: word.failure_type, status: StatusByte.word(row["status"], field: "#{field} status"),
                               circuit_id: circuit(row, known, field), claim: claim(row, word, known, field), text: text(row, word, known)).freeze
      end

      # A line as a person types or pastes it: "C0031-13 current left front sensor, open".
      # Returns a row for `read`. Raises InputError when no code stands in it.
      def self.row_of(line, field: "codes")
        code = line[/\b[PCBUpcbu][0-3][0-9A-Fa-f]{3}(?:[\-:][0-9A-Fa-f]{2})?\b/] or
          raise InputError.new(field: field, given: line, expected: "a code such as C0031 or C0031-13 in each line", fix: "Put a remark without a code into the complaint.")
        word = CodeWord.parse(code.tr(":", "-"))
        rest = line.sub(code, " ")
        status = rest[/\b(current|present|active|pending|history|stored|intermittent|sporadic)\b/i]
        byte = rest[/(?:\bstatus\s*(?:0x)?|\A[\s,;]*)([0-9A-Fa-f]{2})\b(?=\s|,|;|\z)/, 1]
        { "code" => word.text, "failure_type" => word.failure_type, "status" => status ? STATUS_WORDS.fetch(status.downcase) : byte, "text" => tidy(rest) }
      end

      STATUS_WORDS = { "current" => "current", "present" => "current", "active" => "current", "pending" => "pending", "history" => "history",
                       "stored" => "history", "intermittent" => "history", "sporadic" => "history" }.freeze

      def self.tidy(text)
        text.gsub(/[,;\t ]+/, " ").strip
      end
      private_class_method :tidy

      private

      def circuit(row, known, field)
        given = row["circuit"].to_s
        return checked_circuit(given, field) unless given.empty?

        found = corner_in(row["text"].to_s) || known&.fetch("corner")
        found = "rear_axle" if found.to_s.start_with?("rear_") && @sheet.corners.include?("rear_axle")
        circuits.include?(found) ? found : nil
      end

      def circuits
        @sheet.corners + [Vehicle::MODULE]
      end

      def checked_circuit(given, field)
        return given if circuits.include?(given)

        raise UnknownNameError.new(field: "#{field} circuit", given: given, known: circuits)
      end

      def corner_in(text)
        plain = CORNER_WORDS.find { |pattern, _| text.match?(pattern) }
        return plain.last if plain && !text.match?(SIDE_WORDS)

        side = text[SIDE_WORDS]&.downcase or return plain&.last
        end_word = text[/\b(front|rear)\b/i]&.downcase or return nil
        "#{end_word}_#{side_as_seated(side)}"
      end

      # Near side is the kerb's: away from the driver.
      def side_as_seated(words)
        @sheet.side_words[words.match?(/near|passenger/) ? "passenger" : "driver"]
      end

      def claim(row, word, known, field)
        given = row["claim"].to_s
        unless given.empty?
          return given if @catalogue.claims.key?(given)

          raise UnknownNameError.new(field: "#{field} claim", given: given, known: @catalogue.claims.keys)
        end
        by_type(word.failure_type) || CLAIM_WORDS.find { |pattern, _| row["text"].to_s.match?(pattern) }&.last || known&.fetch("claim") || "any"
      end

      def by_type(failure_type)
        return nil if failure_type.nil? || failure_type == "00"

        @catalogue.claims.values.find { |claim| claim["from"].include?(failure_type) }&.fetch("id")
      end

      def text(row, word, known)
        given = row["text"].to_s
        return given unless given.empty?

        [known ? known["text"] : "not in the catalogue", @catalogue.failure_types.dig(word.failure_type, "text")].compact.join(": ")
      end
    end
  end
end
