# frozen_string_literal: true

require "json"

module Gadwall
  module CLI
    # `bin/gadwall simulate`: a session with a simulated vehicle through the diagnostic protocol.
    class SimulateFile
      SESSIONS = %w[scan clear live].freeze

      # text: JSON of a vehicle file, or of a bare sheet; faults: texts; seed: Integer. Raises InputError.
      def initialize(text, faults: [], seed: 1)
        @vehicle = Simulator::VehicleUnderTest.new(sheet_of(text), faults: faults, seed: seed)
        @vehicle.drive
      end

      # Its bus as lines: Simulator::Listener.
      def listener(real_time: false)
        Simulator::Listener.new(@vehicle, real_time: real_time)
      end

      # The traffic as a bus log.
      def log
        link.to_s
      end

      # session: "scan", "clear", "live", "routine:ID" or "write:DID=HEX". Returns a Hash. Raises InputError.
      def run(session)
        name, rest = session.split(":", 2)
        case name
        when "scan"
          scan
        when "clear"
          each_module { |id| interface.clear(id) }
        when "live"
          live
        when "routine"
          routine(rest.to_s)
        when "write"
          write(rest.to_s)
        else
          raise UnknownNameError.new(field: "--session", given: session, known: SESSIONS + %w[routine:ID write:DID=HEX])
        end
      end

      private

      # A tool on the vehicle; who only listens to the bus needs none.
      def link
        @link ||= Simulator::Link.new(@vehicle)
      end

      def interface
        @interface ||= Instruments::DiagnosticInterface.new(link)
      end

      def catalogue
        @vehicle.system.catalogue
      end

      def sheet_of(text)
        data = Quantity::Decimal.json(text, field: "vehicle file", fix: "See docs/formats/vehicle.md.")
        sheet = data.is_a?(Hash) ? (data["vehicle"] || data) : nil
        return sheet if sheet.is_a?(Hash)

        raise InputError.new(
                field: "vehicle file",
                given: text[0, 30],
                expected: "a vehicle as JSON",
                fix: "See docs/formats/vehicle.md."
              )
      end

      # As `bin/gadwall scan` prints it, read back from the traffic by our own decoder; and who should have answered.
      def scan
        known = catalogue.simulated_modules.values.select { |row| @vehicle.ecu(row["id"]) }
        interface.scan(known.map { |row| row["request"] })
        link.broadcast
        ScanFile.of_text(log).to_h.merge(lamps: lamps)
      end

      # Lamps that modules ask for.
      def lamps
        asking = @vehicle.ecus.select { |ecu| ecu.dtcs.values.any? { |dtc| dtc.bit?(Simulator::Dtc::WARNING) } }
        asking.map(&:id)
      end

      def live
        @vehicle.set(key: "ready", gear: "drive", speed_km_h: 30.0)
        values =
          catalogue
            .data_identifiers
            .values
            .reject { |row| row["written"] }
            .filter_map do |row|
              ecu = @vehicle.speaking.find { |each| row["modules"].include?(each.id) || row["modules"] == ["*"] } or
                next
              bytes = interface.read_data(ecu.request_id, row["did"]) or next
              raw = bytes.reduce(0) { |sum, byte| (sum << 8) | byte }
              {
                id: row["id"],
                name: row["name"],
                value: (raw * row["step"]).round(3),
                unit: row["unit"],
                module: ecu.name
              }
            end
        { live: values }
      end

      def each_module
        answers =
          interface.modules.map do |id|
            answer = yield id
            {
              module: @vehicle.ecus.find { |ecu| ecu.request_id == id }.name,
              done: answer&.positive == true,
              refused: refusal(answer)
            }.compact
          end
        { modules: answers }
      end

      def routine(id)
        row = catalogue.routines[id]
        raise UnknownNameError.new(field: "--session routine", given: id, known: catalogue.routines.keys) unless row

        @vehicle.set(support: true)
        answers =
          @vehicle
            .speaking
            .select { |ecu| row["modules"].include?(ecu.id) }
            .map do |ecu|
              answer = interface.routine(ecu.request_id, row["routine"])
              { module: ecu.name, done: answer&.positive == true, refused: refusal(answer) }.compact
            end
        { routine: id, modules: answers }
      end

      def write(text)
        did, hex = text.split("=", 2)
        unless did.to_s.match?(/\A(?:0x)?\h{1,4}\z/) && hex.to_s.match?(/\A(?:\h{2})+\z/)
          raise InputError.new(field: "--session write", given: text, expected: "DID=HEX, such as 0100=0A0B0C0D")
        end

        number = did.delete_prefix("0x").to_i(16)
        bytes = [hex].pack("H*").bytes
        @vehicle.set(support: true)
        knowing = @vehicle.speaking.select { |ecu| knows?(ecu, number) }
        answers =
          knowing.map do |ecu|
            answer = interface.write(ecu.request_id, number, bytes) { |seed| seed ^ Simulator::Uds::KEY_MASK }
            back = interface.read_data(ecu.request_id, number)
            {
              module: ecu.name,
              done: answer&.positive == true,
              refused: refusal(answer),
              reads_back: back && back == bytes
            }.compact
          end
        { did: format("%04X", number), modules: answers }
      end

      def knows?(ecu, did)
        catalogue.data_identifiers.values.any? do |row|
          row["did"] == did && row["written"] && (row["modules"] == ["*"] || row["modules"].include?(ecu.id))
        end
      end

      def refusal(answer)
        return if answer.nil? || answer.positive

        catalogue.refusal(answer.refusal)
      end
    end
  end
end
