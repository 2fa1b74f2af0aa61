# frozen_string_literal: true

module Gadwall
  module Simulator
    module Uds
      # What a module knows by identifier: what it says of itself, live values, and what is written into it.
      class Data
        IDENTIFICATION = {
          0xF190 => :vin,
          0xF187 => :part,
          0xF191 => :hardware,
          0xF189 => :software,
          0xF197 => :name,
          0xF18C => :serial
        }.freeze
        SESSION = 0xF186
        # ISO 3779: seventeen, without I, O and Q, the ninth by 49 CFR 565.
        VIN = "ZZ9GW00E6SV000001"

        def initialize(vehicle, ecu)
          @vehicle = vehicle
          @ecu = ecu
          @catalogue = vehicle.system.catalogue
        end

        # The bytes of a live or written value, [row, nil] of it alone: a Hash of data/simulation/data_identifiers.yml
        # that this module knows in this vehicle, or nil.
        def row(did)
          @catalogue.data_identifiers.values.find do |row|
            row["did"] == did && row["modules"].intersect?(["*", @ecu.id]) && @vehicle.shows?(row)
          end
        end

        # Bytes of an identifier, nil where the module does not know it.
        def bytes(did)
          return [@ecu.session] if did == SESSION
          return identification(IDENTIFICATION[did]) if IDENTIFICATION.key?(did)

          row = row(did) or return
          return @ecu.written.fetch(did, [0] * row["bytes"]) if row["written"]

          signed((@vehicle.live(row, @ecu) / row["step"]).round, row["bytes"])
        end

        private

        # Two's complement.
        def signed(value, bytes)
          most = 1 << (8 * bytes)
          fitted = value.negative? ? [value, -most / 2].max % most : [value, most - 1].min
          (bytes - 1).downto(0).map { |i| (fitted >> (8 * i)) & 0xFF }
        end

        def identification(name)
          case name
          when :vin
            (@vehicle.system.sheet.vin || VIN).bytes
          when :name
            @ecu.name.bytes
          else
            "#{name.to_s.upcase[0, 2]}-#{format("%03X", @ecu.request_id)}-#{@ecu.id.upcase[0, 4]}".bytes
          end
        end
      end
    end
  end
end
