# frozen_string_literal: true

module Web
  module Forms
    # A scan typed or pasted: one DTC in each line, and which modules responded.
    class CodesForm
      MOST_LINES = 200
      MOST_LETTERS = 100_000
      MOST_MODULES = Gadwall::Job::Entries::Scan::MOST_MODULES

      attr_reader :errors, :text, :answered, :phase, :responded, :expected

      # input: Input; sheet: Vehicle::Sheet, to read sides and circuits by; corrections: the workshop's, of DTCs; phase:
      # "before" or "after" the repair.
      def initialize(input, sheet, corrections: {}, phase: "before")
        @text = input.raw("codes")
        @answered = input.text("answered")
        @phase = phase
        @silent = input.list("silent")
        @responded = input.text("responded")
        @expected = input.text("expected")
        @sheet = sheet
        @reader = Gadwall::TroubleCodes::CodeReader.new(sheet, Gadwall::Knowledge.catalogue, corrections: corrections)
        @errors = {}
        @rows = []
        read_lines
        %w[responded expected].each { |name| check_count(name, public_send(name)) }
        return if %w[yes no].include?(answered)

        errors["answered"] = "Say whether the ABS module responded: it decides what may be proven."
      end

      def ok?
        errors.empty?
      end

      # For Gadwall::Job::Acts::KeepScan.
      def act_values
        others = self.class.others(@sheet).keys.map { |id| { "name" => id, "answered" => !silent?(id) } }
        {
          phase: phase,
          codes: @rows,
          modules: [{ "name" => "ABS", "answered" => answered == "yes" }, *others],
          responded: responded.empty? ? nil : responded.to_i,
          expected: expected.empty? ? nil : expected.to_i
        }
      end

      # Did this module not respond?
      def silent?(id)
        @silent.include?(id)
      end

      # {module id => name} of every other module that should respond on this vehicle.
      def self.others(sheet)
        modules = Gadwall::Knowledge.catalogue.modules
        ids = (sheet.fitted.filter_map { |row| row["module"] } + sheet.bus_members.values.flatten).uniq - ["abs"]
        ids.to_h { |id| [id, modules.dig(id, "name") || id.tr("_", " ")] }
      end

      private

      def check_count(name, given)
        return if given.empty? || (given.match?(/\A\d{1,3}\z/) && given.to_i <= MOST_MODULES)

        errors[name] = "#{given} is not a number of modules: 0 to #{MOST_MODULES}, or leave it empty."
      end

      def read_lines
        if text.length > MOST_LETTERS
          return(errors["codes"] = "#{text.length} letters; at most #{MOST_LETTERS}. Paste only the lines with DTCs.")
        end

        lines = text.split(/\r?\n/).map(&:strip).reject(&:empty?)
        if lines.size > MOST_LINES
          return errors["codes"] = "#{lines.size} lines; at most #{MOST_LINES}. Paste only the lines with DTCs."
        end

        lines.each_with_index { |line, i| read_line(line, i) }
      end

      def read_line(line, index)
        field = "line #{index + 1}"
        row = @reader.with_corrections(Gadwall::TroubleCodes::CodeReader.row_of(line, field: field))
        @reader.read(row, field: field)
        @rows << row
      rescue Gadwall::InputError => error
        errors["codes"] ||= error.message
      end
    end
  end
end
