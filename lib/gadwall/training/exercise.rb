# frozen_string_literal: true

require "digest"

module Gadwall
  module Training
    # A complaint with a vehicle behind it. Frozen; what is hidden in the vehicle is asked for by name only.
    #
    # id: text; level: 1 to 4; customer, complaint: texts; vehicle: Hash of a sheet; symptoms: ids; seed: Integer;
    # sealed: text (Sealed): faults (ids as VehicleUnderTest takes them), was (of a fault that is mended already, or
    # nil), point (what it teaches, in a sentence).
    Exercise =
      Struct.new(:id, :level, :customer, :complaint, :vehicle, :symptoms, :seed, :sealed, keyword_init: true) do
        # row: Hash with String keys, of a file.
        def self.of(row)
          new(**row.slice(*members.map(&:to_s)).transform_keys(&:to_sym)).freeze
        end

        # What names it on a page: its id would name the fault.
        def key
          "x#{Digest::SHA256.hexdigest("exercise #{id}")[0, 10]}"
        end

        # Ids of the hidden faults.
        def faults
          Sealed.open(sealed)["faults"]
        end

        # Ids of faults that left codes and are gone.
        def was
          Sealed.open(sealed)["was"] || []
        end

        # What it teaches, in a sentence.
        def point
          Sealed.open(sealed)["point"].to_s
        end

        # A fresh vehicle with the faults in it, as it was brought in: driven, its codes set. Returns a
        # Simulator::VehicleUnderTest.
        def fresh_vehicle
          made = Simulator::VehicleUnderTest.new(vehicle, faults: faults + was, seed: seed)
          made.drive
          5.times { made.drive } if faults.any? { |id| id.include?("~") }
          mend(made)
          made.set(key: "off")
        end

        private

        # What is gone already: its codes are history by now.
        def mend(made)
          return if was.empty?

          was.each do |id|
            circuit, fault = made.system.fault(id.split(/[@~]/).first)
            made.wiring.mend("#{circuit.id}/#{fault.place}")
          end
          2.times { made.set(key: "off").drive }
        end
      end
  end
end
