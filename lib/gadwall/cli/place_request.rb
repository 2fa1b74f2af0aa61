# frozen_string_literal: true

module Gadwall
  module CLI
    # A line of `plan --lines` and `options --lines`: {"case": {...}, "place": ["circuit/place"], "option": "id"}. One
    # place may stand without its list; an option for each of several places is a list as long as theirs.
    class PlaceRequest
      # data: a document. Raises InputError.
      def initialize(data)
        fail!("line", data, "an object with case, place and option") unless data.is_a?(Hash)
        fail!("case", data["case"], "a case as in docs/formats/case.md") unless data["case"].is_a?(Hash)
        unknown = data.keys - %w[case place option]
        fail!("line", unknown.join(", "), "case, place and option only") unless unknown.empty?
        @data = data
      end

      # CaseFile. models: Vehicle::ModelCache.
      def kase(models)
        CaseFile.of(@data["case"], models: models)
      end

      # [[place, option or nil], ...].
      def pairs
        places = texts("place")
        options = texts("option")
        unless options.size <= 1 || options.size == places.size
          fail!("option", options.join(", "), "one, or one for each place")
        end
        fail!("place", "", "a place, where an option is named") if places.empty? && options.any?

        places.each_with_index.map { |place, k| [place, options.size == 1 ? options.first : options[k]] }
      end

      private

      def texts(name)
        given = Array(@data[name])
        wrong = given.find { |each| !each.is_a?(String) }
        fail!(name, wrong, "text") if wrong
        given
      end

      def fail!(field, given, expected)
        raise InputError.new(field: field, given: given.to_s[0, 40], expected: expected)
      end
    end
  end
end
