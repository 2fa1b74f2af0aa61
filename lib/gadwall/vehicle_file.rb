# frozen_string_literal: true

require "json"

module Gadwall
  # A vehicle sheet as JSON, to be opened elsewhere: docs/formats/vehicle.schema.json says what may stand in it.
  module VehicleFile
    VERSION = 1
    SCHEMA = File.join(ROOT, "docs/formats/vehicle.schema.json")

    MOST_BYTES = 200_000 # the fullest sheet has some 30 000

    # text: JSON. Returns the sheet as a Hash, checked: every circuit of it can be built. Raises InputError, one
    # sentence.
    def self.parse(text)
      if text.bytesize > MOST_BYTES
        raise InputError.new(
                field: "vehicle file",
                given: "#{text.bytesize} bytes",
                expected: "at most #{MOST_BYTES} bytes"
              )
      end

      data = Quantity::Decimal.json(text, field: "vehicle file", fix: "See docs/formats/vehicle.md.")
      CaseFile::SchemaCheck.for(SCHEMA).check(data)
      Vehicle::System.build(Vehicle::Sheet.new(data["vehicle"]))
      data["vehicle"]
    end

    # vehicle: Hash of the sheet. Returns JSON text.
    def self.dump(vehicle)
      JSON.pretty_generate({ "gadwall_vehicle" => VERSION, "vehicle" => vehicle })
    end
  end
end
