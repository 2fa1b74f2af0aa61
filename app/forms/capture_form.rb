# frozen_string_literal: true

module Web
  module Forms
    # A capture or a log handed in. `analysis` reads and analyses it; every fault in it is an InputError with line and column.
    class CaptureForm
      KINDS = { "wheel_speed" => "Wheel speed, scope (CSV or VCD)", "live_data" => "Live data of a scan tool", "motor_current" => "Park-brake motor, current", "pump_pressure" => "Pump and accumulator, pressure" }.freeze

      attr_reader :name, :circuit_id

      def initialize(params, system)
        @params = params
        @system = system
        @kind = params["kind"].to_s
        upload = params["file"]
        @upload = upload.is_a?(Hash) && upload["tempfile"] ? upload : nil
        @name = @upload ? @upload["filename"].to_s : ""
        @circuit_id = system.circuits.map(&:id).find { |id| id == params["circuit"] }
      end

      # Hash as the command line prints it.
      def analysis
        raise Gadwall::InputError.new(field: "file", given: "", expected: "a file to look at") unless @upload
        raise Gadwall::InputError.new(field: "kind", given: @kind, expected: "one of #{KINDS.keys.join(', ')}") unless KINDS.key?(@kind)

        Gadwall::CaptureFile.of(@upload["tempfile"].path, @kind, ring: true, **wheel)
      end

      private

      def wheel
        @kind == "wheel_speed" ? { teeth: teeth, sensor: sensor, circumference_m: @system.sheet.circumference_m } : {}
      end

      # As typed, or as on the sheet.
      def teeth
        given = @params["teeth"].to_s.strip
        return @system.sheet.teeth if given.empty?

        count = Integer(given, 10, exception: false)
        return count if count&.between?(12, 200)

        raise Gadwall::InputError.new(field: "teeth", given: given, expected: "a whole number from 12 to 200 teeth or pole pairs")
      end

      def sensor
        kind = @system.sheet.sensors[@circuit_id] or return nil
        kind == "passive" ? "passive" : "active"
      end
    end
  end
end
