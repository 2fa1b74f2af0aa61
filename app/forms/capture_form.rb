# frozen_string_literal: true

module Web
  module Forms
    # A capture or a log handed in. Every fault in the form is an InputError of its field; of the file, one with line
    # and column.
    class CaptureForm
      KINDS = {
        "wheel_speed" => "Wheel speed, scope (CSV or VCD)",
        "live_data" => "Live data of a scan tool",
        "motor_current" => "Park-brake motor, current",
        "pump_pressure" => "Pump and accumulator, pressure"
      }.freeze
      MOST_SOURCE_BYTES = 20_000_000 # of a log that is kept to be read anew

      attr_reader :name, :circuit_id

      # columns: the shop's, {name => parameter id or ""}.
      def initialize(params, system, columns: {})
        @params = params
        @system = system
        @columns = columns
        @kind = params["kind"].to_s
        upload = params["file"]
        @upload = upload.is_a?(Hash) && upload["tempfile"] ? upload : nil
        @name = @upload ? @upload["filename"].to_s.scrub("?") : ""
        @circuit_id = system.circuits.map(&:id).find { |id| id == params["circuit"] }
      end

      # Of the file that was handed in.
      def path
        raise Gadwall::InputError.new(field: "file", given: "", expected: "a file to look at") unless @upload

        @upload["tempfile"].path
      end

      def slow?
        File.size(path) > CaptureWorks::SLOW_BYTES
      end

      # As the command line takes them: {name => text}.
      def options
        unless KINDS.key?(@kind)
          raise Gadwall::InputError.new(field: "kind", given: @kind, expected: "one of #{KINDS.keys.join(", ")}")
        end

        {
          "signal" => @kind,
          "channel" => @params["channel"].to_s.strip,
          "circumference" => (@system.sheet.circumference_m if %w[wheel_speed live_data].include?(@kind)).to_s,
          **of_kind
        }.reject { |_, value| value.empty? }
      end

      # [Hash as the command line prints it, Signals::Waveform].
      def view
        Gadwall::CaptureFile.view(path, options)
      end

      # The bytes of a log whose columns may be read anew, or nil.
      def source(path = self.path)
        File.binread(path) if @kind == "live_data" && File.size(path) <= MOST_SOURCE_BYTES
      end

      private

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
        given = @params["teeth"].to_s.strip
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
