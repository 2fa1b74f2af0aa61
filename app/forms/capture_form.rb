# frozen_string_literal: true

module Web
  module Forms
    # A capture or a log handed in. Every fault in the form is an InputError of its field; of the file, one with line
    # and column.
    class CaptureForm
      KINDS = {
        "wheel_speed" => "Wheel speed, scope (CSV or VCD)",
        "live_data" => "Live data of a scan tool",
        "motor_current" => "Park brake motor, current",
        "pump_pressure" => "Pump and accumulator, pressure"
      }.freeze
      BY_CIRCUMFERENCE = %w[wheel_speed live_data].freeze
      MOST_SOURCE_BYTES = 20_000_000 # of a log that is stored to be read again

      attr_reader :name, :circuit_id

      # The bytes of a log whose columns may be read again, or nil. kind: of KINDS; path: of the file.
      def self.source_of(kind, path)
        File.binread(path) if kind == "live_data" && File.size(path) <= MOST_SOURCE_BYTES
      end

      # input: Input; columns: the workshop's, {name => parameter id or ""}.
      def initialize(input, system, columns: {})
        @input = input
        @system = system
        @columns = columns
        @kind = input.text("kind")
        @upload = input.upload("file")
        @name = @upload ? @upload["filename"].scrub("?") : ""
        @circuit_id = system.circuits.map(&:id).find { |id| id == input.text("circuit") }
      end

      # Of the file that was handed in. Raises Gadwall::InputError.
      def path
        return @upload["tempfile"].path if @upload

        raise Gadwall::InputError.new(field: "file", given: "", expected: "a capture or a log", fix: "Choose a file.")
      end

      # Does it take longer than a page may wait?
      def slow?
        File.size(path) > AnalysisQueue::SLOW_BYTES
      end

      # As the command line takes them: {name => text}. Raises Gadwall::InputError.
      def options
        unless KINDS.key?(@kind)
          raise Gadwall::InputError.new(field: "kind", given: @kind, expected: "one of #{KINDS.keys.join(", ")}")
        end

        plain = { "signal" => @kind, "channel" => @input.text("channel"), "circumference" => circumference }
        plain.merge(of_kind).reject { |_, value| value.empty? }
      end

      # [Hash as the command line prints it, Signals::Waveform]. Raises Gadwall::InputError.
      def view
        Gadwall::Signals::CaptureFile.view(path, options)
      end

      # The bytes of a log whose columns may be read again, or nil.
      def source
        self.class.source_of(@kind, path)
      end

      private

      # Metres, as text.
      def circumference
        BY_CIRCUMFERENCE.include?(@kind) ? @system.sheet.circumference_m.to_s : ""
      end

      def of_kind
        case @kind
        when "wheel_speed"
          { "teeth" => teeth.to_s, "sensor" => sensor.to_s }
        when "live_data"
          { "columns" => JSON.generate(@columns) }
        else
          {}
        end
      end

      # As typed, or as on the sheet.
      def teeth
        given = @input.text("teeth")
        return @system.sheet.teeth if given.empty?

        count = Integer(given, 10, exception: false)
        return count if count&.between?(12, 200)

        raise Gadwall::InputError.new(
                field: "teeth",
                given: given,
                expected: "a whole number from 12 to 200 teeth or pole pairs"
              )
      end

      def sensor
        kind = @system.sheet.sensors[@circuit_id] or return nil
        kind == "passive" ? "passive" : "active"
      end
    end
  end
end
