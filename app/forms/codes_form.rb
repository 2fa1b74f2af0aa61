# frozen_string_literal: true

module Web
  module Forms
    # A scan typed or pasted: one code in each line, who answered, or why there is no scan.
    class CodesForm
      MOST_LINES = 200

      attr_reader :errors, :text, :answered, :reason, :phase

      # sheet: Vehicle::Sheet, to read sides and circuits by.
      def initialize(params, sheet)
        @text = params["codes"].to_s
        @answered = params["answered"].to_s
        @reason = params["reason"].to_s.strip
        @phase = params["phase"] == "after" ? "after" : "before"
        @confirmed = params["confirm"].is_a?(Hash) ? params["confirm"] : {}
        @reader = Gadwall::Codes::CodeReader.new(sheet, Gadwall::Knowledge.catalogue)
        @errors = {}
        @rows = []
        read_lines
        errors["answered"] = "Say whether the anti-lock module answered: it decides what may be proven." unless %w[yes no].include?(answered)
      end

      def ok?
        errors.empty?
      end

      def entry
        { "kind" => "scan", "phase" => phase, "modules" => [{ "name" => "ABS", "answered" => answered == "yes" }], "codes" => @rows }
      end

      private

      def read_lines
        lines = text.split(/\r?\n/).map(&:strip).reject(&:empty?)
        return errors["codes"] = "#{lines.size} lines; at most #{MOST_LINES}. Paste only the lines with codes." if lines.size > MOST_LINES

        lines.each_with_index { |line, i| read_line(line, i) }
      end

      def read_line(line, index)
        row = Gadwall::Codes::CodeReader.row_of(line, field: "line #{index + 1}")
        given = @confirmed[row["code"]] || {}
        row = row.merge(given.slice("circuit", "claim").reject { |_, value| value.to_s.empty? })
        @reader.read(row, field: "line #{index + 1}")
        @rows << row
      rescue Gadwall::InputError => error
        errors["codes"] ||= error.message
      end
    end
  end
end
