# frozen_string_literal: true

module Gadwall
  module Training
    # What an interface read, as the codes page keeps it. Makers' codes get the text of the tool's own list.
    class ScanRows
      SOURCE = "read by the interface"

      # vehicle: Simulator::VehicleUnderTest, for names of modules and the tool's list of codes.
      def initialize(vehicle)
        @vehicle = vehicle
        @catalogue = vehicle.system.catalogue
      end

      # reads: Array of Instruments::DiagnosticInterface::Read. Returns {codes:, modules:, responded:, expected:} as
      # Job::Acts::KeepScan takes them.
      def values(reads)
        ids = reads.filter_map { |read| by_request(read.request_id)&.id }
        {
          codes: reads.flat_map { |read| codes(read) },
          modules: asked.map { |id| { "name" => name(id), "answered" => ids.include?(id) } },
          responded: ids.size,
          expected: @vehicle.ecus.size
        }
      end

      # One module's codes: [{"code", "failure_type", "status", "text", "module"}, ...].
      def codes(read)
        read.codes.map do |word, status|
          circuit, claim = @vehicle.dtc_table.meaning(word)
          {
            "code" => word.text,
            "failure_type" => word.failure_type,
            "status" => format("%02X", status.value),
            "module" => by_request(read.request_id)&.name.to_s,
            "text" => text(word, circuit, claim),
            "circuit" => (circuit if circuit && maker?(word) && !missed(claim))
          }.compact
        end
      end

      private

      def by_request(id)
        @vehicle.ecus.find { |ecu| ecu.request_id == id }
      end

      # Modules whose answer counts for the diagnosis: "ABS" as the codes page has it, others by their id.
      def asked
        ids = @vehicle.system.circuits.flat_map { |each| [each.module, *each.harness.modules.map(&:first)] }
        (["abs"] + ids.compact).uniq
      end

      def name(id)
        id == "abs" ? "ABS" : id
      end

      def maker?(word)
        @catalogue.chassis_codes[word.text].nil?
      end

      # Name of the module that the claim says is missed, or nil.
      def missed(claim)
        id = Simulator::DtcTable.missed(claim.to_s)
        id && (@catalogue.modules.dig(id, "name") || id)
      end

      def text(word, circuit, claim)
        return "" unless circuit && maker?(word)
        return "Lost communication with #{missed(claim)}" if missed(claim)

        "#{@vehicle.system.circuit_named(circuit).title}: #{@catalogue.claims.dig(claim, "text") || claim.tr("_", " ")}"
      end
    end
  end
end
