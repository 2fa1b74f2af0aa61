# frozen_string_literal: true

module Gadwall
  module Tests
    # A value that neither the sheet nor the trade states for this vehicle: what its module feeds to the sensors, its
    # battery just now. It is one value for all circuits that hang on it, learned from the readings (data/diagnosis/
    # unknowns.yml).
    #
    # id; sets: names of the template's values; tests: patterns of the tests that show it; felt: of those that do not
    # show it, but depend on it; tolerance: one sigma, relative, about each value; points: [[value, share], ...], shares
    # sum to 1; volt: is it the battery of a 12 V vehicle, twice as much with 24 V?
    Unknown =
      Struct.new(:id, :sets, :tests, :felt, :tolerance, :points, :volt, keyword_init: true) do
        # Those of a harness: Array of Unknown, without what its sheet gives.
        def self.all(harness, catalogue)
          catalogue
            .unknowns
            .select { |row| row["circuits"].include?(harness.id) }
            .reject { |row| row["sets"].any? { |name| harness.given?(name) } }
            .map { |row| of(row, harness.id) }
            .freeze
        end

        # row: a record of data/diagnosis/unknowns.yml; template: id of the circuit template that it is asked for.
        def self.of(row, template)
          sum = row["points"].sum { |point| point["share"] }
          new(
            id: row["apart"] ? "#{row["id"]}.#{template}" : row["id"],
            sets: row["sets"],
            tests: row["tests"],
            felt: row["felt"] || [],
            tolerance: row["tolerance"],
            volt: row["battery"] || false,
            points:
              row["points"].map { |point| [point["values"] || point["value"], point["share"] / sum.to_f].freeze }.freeze
          ).freeze
        end

        # Can a test show it?
        def shown_by?(test)
          test.numeric? && tests.any? { |pattern| File.fnmatch(pattern, test.id) }
        end

        # Does a test that does not show it depend on it?
        def felt_by?(test)
          felt.any? { |pattern| File.fnmatch(pattern, test.id) }
        end

        # A harness with this value at one of its points. index: number of the point. Returns a Circuits::Harness.
        def put_into(harness, index)
          named = sets & harness.values.keys
          factor = volt ? harness.battery_factor : 1
          value = points[index].first
          given = value.is_a?(Hash) ? value.slice(*named) : named.to_h { |name| [name, value * factor] }
          harness.with_values(given, tolerance)
        end
      end
  end
end
