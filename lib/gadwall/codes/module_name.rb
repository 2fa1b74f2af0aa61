# frozen_string_literal: true

module Gadwall
  module Codes
    # Which module a scan or a text means (data/vehicle/modules.yml).
    module ModuleName
      # Returns an id, or nil. The longest pattern that fits goes first: "trailer brake" before "brake".
      def self.find(name, catalogue)
        return name if catalogue.modules.key?(name)

        patterns_of(catalogue).find { |_, patterns| patterns.match?(name) }&.first
      end

      # [[module id, Knowledge::Patterns], ...], the longest first.
      def self.patterns_of(catalogue)
        catalogue
          .modules
          .values
          .map do |row|
            [row["id"], Knowledge::Patterns.new(patterns: row["patterns"], none_of: row["unless"], prefix: "\\b")]
          end
          .sort_by { |_, patterns| -patterns.length }
      end
      private_class_method :patterns_of
    end
  end
end
