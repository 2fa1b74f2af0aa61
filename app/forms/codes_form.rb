# frozen_string_literal: true

module Web
  module Forms
    # A scan typed or pasted: one code in each line, who answered, or why there is no scan.
    class CodesForm
      MOST_LINES = 200

      attr_reader :errors, :text, :answered, :reason, :phase

      # sheet: Vehicle::Sheet, to read sides and circuits by; corrections: the shop's corrections of codes.
      def initialize(params, sheet, corrections: {})
        @text = params["codes"].to_s
        @answered = params["answered"].to_s
        @reason = params["reason"].to_s.strip
        @phase = params["phase"] == "after" ? "after" : "before"
        @silent = Array(params["silent"]).map(&:to_s)
        @sheet = sheet
        @reader = Gadwall::Codes::CodeReader.new(sheet, Gadwall::Knowledge.catalogue, corrections: corrections)
        @errors = {}
        @rows = []
        read_lines
        errors["answered"] = "Say whether the anti-lock module answered: it decides what may be proven." unless %w[
          yes
          no
        ].include?(answered)
      end

      def ok?
        errors.empty?
      end

      def entry
        others = self.class.others(@sheet).keys.map { |id| { "name" => id, "answered" => !silent?(id) } }
        {
          "kind" => "scan",
          "phase" => phase,
          "modules" => [{ "name" => "ABS", "answered" => answered == "yes" }] + others,
          "codes" => @rows
        }
      end

      def silent?(id)
        @silent.include?(id)
      end

      # {module id => name} of everyone else who should answer on this vehicle.
      def self.others(sheet)
        modules = Gadwall::Knowledge.catalogue.modules
        ids = (sheet.fitted.filter_map { |row| row["module"] } + sheet.bus_members.values.flatten).uniq - ["abs"]
        ids.to_h { |id| [id, modules.dig(id, "name") || id.tr("_", " ")] }
      end

      private

      def read_lines
        lines = text.split(/\r?\n/).map(&:strip).reject(&:empty?)
        if lines.size > MOST_LINES
          return(errors["codes"] = "#{lines.size} lines; at most #{MOST_LINES}. Paste only the lines with codes.")
        end

        lines.each_with_index { |line, i| read_line(line, i) }
      end

      def read_line(line, index)
        row = @reader.with_corrections(Gadwall::Codes::CodeReader.row_of(line, field: "line #{index + 1}"))
        @reader.read(row, field: "line #{index + 1}")
        @rows << row
      rescue Gadwall::InputError => error
        errors["codes"] ||= error.message
      end
    end
  end
end
