# frozen_string_literal: true

module Gadwall
  module Simulator
    module Protocol
      # Data by identifier of a simulated module: what it says of itself, live values, and what is written into it (ISO
      # 14229-1 services 22 and 2E, from memory). Part of UdsServer.
      module DataIdentifiers
        IDENTIFICATION = {
          0xF190 => :vin,
          0xF187 => :part,
          0xF191 => :hardware,
          0xF189 => :software,
          0xF197 => :name,
          0xF18C => :serial
        }.freeze

        private

        def read_data(bytes)
          raise UdsServer::Refused, :length if bytes.size < 3 || bytes.size.even?

          parts =
            bytes
              .drop(1)
              .each_slice(2)
              .filter_map { |high, low| value_of((high << 8) | low)&.then { |data| [high, low, *data] } }
          raise UdsServer::Refused, :range if parts.empty?

          [0x62, *parts.flatten]
        end

        def value_of(did)
          return identification(IDENTIFICATION[did]) if IDENTIFICATION.key?(did)

          row = identifier(did) or return
          return @ecu.written.fetch(did, [0] * row["bytes"]) if row["written"]

          number((@vehicle.live(row) / row["step"]).round, row["bytes"])
        end

        def identification(name)
          sheet = @vehicle.system.sheet
          text =
            case name
            when :vin
              sheet.vin || "GDW0000000SIM0001"
            when :name
              @ecu.name
            else
              "#{name.to_s.upcase[0, 2]}-#{format("%03X", @ecu.request_id)}-#{@ecu.id.upcase[0, 4]}"
            end
          text.bytes
        end

        def identifier(did)
          @catalogue.data_identifiers.values.find do |row|
            row["did"] == did && row["modules"].intersect?(["*", @ecu.id])
          end
        end

        def write_data(bytes)
          raise UdsServer::Refused, :length if bytes.size < 4

          row = identifier((bytes[1] << 8) | bytes[2])
          raise UdsServer::Refused, :range unless row && row["written"]
          raise UdsServer::Refused, :security unless @ecu.unlocked
          raise UdsServer::Refused, :length unless bytes.size == 3 + row["bytes"]
          raise UdsServer::Refused, :conditions unless @vehicle.state.still?

          @ecu.written[row["did"]] = bytes.drop(3)
          [0x6E, bytes[1], bytes[2]]
        end
      end
    end
  end
end
