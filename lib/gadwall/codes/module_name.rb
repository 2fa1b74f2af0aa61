# frozen_string_literal: true

module Gadwall
  module Codes
    # Which module a scan or a text means (data/vehicle/modules.yml).
    module ModuleName
      # Returns an id, or nil. The longest pattern that fits goes first: "trailer brake" before "brake".
      def self.find(name, catalogue)
        return name if catalogue.modules.key?(name)

        rows = catalogue.modules.values.sort_by { |row| -row["words"].length }
        rows.find { |row| name.match?(/\b(?:#{row["words"]})/i) && fits?(row, name) }&.fetch("id")
      end

      # "Park brake" is not the brake module, "trailer brake" not the park brake.
      def self.fits?(row, name)
        row["id"] == "abs" ? !name.match?(/park|trailer/i) : true
      end
      private_class_method :fits?
    end
  end
end
