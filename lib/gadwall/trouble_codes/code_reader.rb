# frozen_string_literal: true

module Gadwall
  module TroubleCodes
    # Reads what a code claims on this vehicle: which circuit, what kind of fault. The technician's word goes first,
    # then what the shop once said of the same code, then the maker's text, then the standard's meaning.
    class CodeReader
      # sheet: Vehicle::Sheet; corrections: {"C1A7F pump relay stuck" => {"circuit" =>, "claim" =>}}, the shop's
      # corrections by the key of CodeReader.key.
      def initialize(sheet, catalogue, corrections: {})
        @sheet = sheet
        @catalogue = catalogue
        @corrections = corrections
        @circuits = CodeCircuit.new(sheet, catalogue)
        @abbreviations = Abbreviations.new(catalogue)
      end

      # row: {"code", "failure_type", "status", "text", "module", "circuit", "claim"}, Strings or nil. Returns an
      # Observations::CodeSeen; circuit_id is nil where neither text nor catalogue tells. Raises InputError for what no
      # code can be.
      def read(row, field: "code", seq: 0)
        word = TroubleCodes.word_of(row, field: field)
        known = known(word)
        row = with_corrections(row).reject { |_, value| value.to_s.empty? }
        said = @abbreviations.spelled_out(row["text"].to_s)
        circuit_id, lost = place(row, said, known, field)
        Observations::CodeSeen.new(
          seq: seq,
          code: word.text,
          failure_type: word.failure_type,
          status: StatusByte.word(row["status"], field: "#{field} status") || Abbreviations.status_in(row["text"].to_s),
          circuit_id: circuit_id,
          claim: claim(row, said, word, known, lost, field),
          text: text(row, word, known),
          sender: row["module"],
          about: known&.fetch("about", nil) || @circuits.accused(said),
          known: !known.nil?
        ).freeze
      end

      # The row with what the shop once said of such a code, where the row itself says nothing and the vehicle has the
      # circuit.
      def with_corrections(row)
        corrections =
          @corrections
            .fetch(self.class.key(row), {})
            .reject do |name, value|
              !row[name].to_s.empty? || (name == "circuit" && !@sheet.circuit_ids.include?(value))
            end
        row.merge(corrections)
      end

      # What names a code for the shop's memory: its word and the maker's text.
      def self.key(row)
        [row["code"].to_s.upcase[/\A[^-]*/], row["text"].to_s.downcase.strip].join(" ").strip
      end

      # A line as a person types or pastes it: "C0031-13 current left front sensor, open". Returns a row for `read`.
      # Raises InputError when no code stands in it.
      def self.row_of(line, field: "codes")
        CodeLine.row_of(line, field: field)
      end

      private

      def known(word)
        case word
        when SPN
          @catalogue.j1939[word.spn.to_s]
        when CodeWord
          @catalogue.chassis_codes[word.text]
        end
      end

      # [circuit id or nil, id of the module that is missed, or nil].
      def place(row, said, known, field)
        given = row["circuit"].to_s
        return @circuits.checked(given, field), nil unless given.empty?

        return nil, nil if @circuits.accused(said)

        @circuits.of_text(said, row["module"]) || @circuits.of_record(known, row["module"]) || [nil, nil]
      end

      def claim(row, said, word, known, lost, field)
        given = row["claim"].to_s
        unless given.empty?
          return given if @catalogue.claims.key?(given) || given.start_with?("lost_")

          raise UnknownNameError.new(field: "#{field} claim", given: given, known: @catalogue.claims.keys)
        end
        return "lost_#{lost}" if lost

        by_type(word) || by_words(said) || known&.fetch("claim") || "any"
      end

      def by_type(word)
        return by_mode(word) if word.is_a?(SPN)
        return nil if word.failure_type.nil? || word.failure_type == "00"

        @catalogue.claims.values.find { |claim| claim["from"].include?(word.failure_type) }&.fetch("id")
      end

      # By the failure mode: what it says of this number, or of any.
      def by_mode(word)
        own = @catalogue.j1939.dig(word.spn.to_s, "modes", word.fmi.to_s)
        claim = own || @catalogue.failure_modes_j1939.dig(word.fmi.to_s, "claim")
        claim unless claim == "any"
      end

      def by_words(text)
        @words ||=
          @catalogue
            .claims
            .values
            .select { |claim| claim["patterns"] }
            .map { |claim| [@catalogue.patterns(claim), claim["id"]] }
        @words.find { |patterns, _| patterns.match?(text) }&.last
      end

      def text(row, word, known)
        given = row["text"].to_s
        return given unless given.empty?

        kind =
          if word.is_a?(SPN)
            @catalogue.failure_modes_j1939.dig(word.fmi.to_s, "text")
          else
            @catalogue.failure_types.dig(word.failure_type, "text")
          end
        [known ? known["text"] : "not in the catalogue", kind].compact.join(": ")
      end
    end
  end
end
