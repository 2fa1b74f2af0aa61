# frozen_string_literal: true

require "json"

module Store
  # Vehicle sheets that the workshop keeps for the next such vehicle.
  class TemplateStore
    # vehicle: Hash of the sheet, without what names one vehicle. Frozen.
    Template = Struct.new(:id, :name, :vehicle, keyword_init: true)
    OF_ONE_VEHICLE = %w[name vin plate].freeze

    def initialize(database)
      @rows = database[:vehicle_templates]
    end

    # By name.
    def all
      @rows.order(:name).map { |row| template(row) }
    end

    # Raises NotFound.
    def find(id)
      row = @rows.first(id: id.to_i) or raise NotFound.new(id, kind: "vehicle template")
      template(row)
    end

    # Saves a sheet under a name, in place of an earlier one of that name. Raises Gadwall::InputError.
    def save(name, vehicle, at:)
      given = name.to_s.strip
      unless given.length.between?(1, 120)
        raise Gadwall::InputError.new(
                field: "template",
                given: given,
                expected: "a name of 1 to 120 letters for such vehicles"
              )
      end

      row = { vehicle: JSON.generate(vehicle.except(*OF_ONE_VEHICLE)), at: at }
      @rows.insert_conflict(target: :name, update: row).insert(name: given, **row)
      template(@rows.first(name: given))
    end

    private

    def template(row)
      Template.new(id: row[:id], name: row[:name], vehicle: JSON.parse(row[:vehicle]).freeze).freeze
    end
  end
end
