# frozen_string_literal: true

module Gadwall
  module TroubleCodes
    # Which module a scan or a text means (data/vehicle/modules.yml).
    module ModuleName
      # name: text. Returns an id of data/vehicle/modules.yml, or nil.
      def self.find(name, catalogue)
        return name if catalogue.modules.key?(name)

        catalogue.module_patterns.find { |_, patterns| patterns.match?(name) }&.first
      end
    end
  end
end
