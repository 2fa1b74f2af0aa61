# frozen_string_literal: true

module Gadwall
  module Repair
    # The proof drive: the monitors that must run for these codes and this repair (data/repairs/drive.yml), and the
    # shortest set of legs that runs them all. Legs of one kind whose speeds overlap are one leg; the fewest that cover
    # all are found by taking each at the least upper speed (handbook: interval stabbing, greedy by right end, from
    # memory).
    module DriveLegs
      # id: unique in the plan; leg: id of data/repairs/drive_legs.yml; title, said: texts; proves: codes and monitors;
      # speed_km_h: [from, to] or nil; distance_m, seconds: or nil; turns: "none" or "both"; stops: Integer; lift: can
      # it be done on a lift?; why_not: why a lift proves nothing, texts; sources: texts.
      Leg =
        Struct.new(
          :id,
          :leg,
          :title,
          :said,
          :proves,
          :speed_km_h,
          :distance_m,
          :seconds,
          :turns,
          :stops,
          :lift,
          :why_not,
          :sources,
          keyword_init: true
        ) do
          # hash: as `to_entry` wrote it.
          def self.from_h(hash)
            new(**hash.slice(*members.map(&:to_s)).transform_keys(&:to_sym)).freeze
          end

          # For the log: String keys, nil left out.
          def to_entry
            to_h.compact.transform_keys(&:to_s)
          end
        end

      # What one row asks of a leg.
      Demand = Struct.new(:row, :leg, :speed, :metres, :seconds, :stops, keyword_init: true)

      # catalogue: Knowledge::Catalogue; works: Array of Work; words: of the plan; codes: {circuit => [code]}. Returns a
      # frozen Array of Leg, in the order in which they are driven.
      def self.for(catalogue, works, words, codes)
        rows = catalogue.drive.values.select { |row| asked?(row, works, words) }
        named = works.map(&:circuit).uniq.flat_map { |id| codes.fetch(id, []) }.uniq
        demands = rows.flat_map { |row| demands_of(row) }
        catalogue
          .drive_legs
          .values
          .flat_map { |leg| legs(leg, demands.select { |each| each.leg == leg["id"] }, named) }
          .freeze
      end

      # row: of data/repairs/drive.yml.
      def self.asked?(row, works, words)
        return false if any?(words, row["without"]) || (row["only_if"] && !any?(words, row["only_if"]))

        any?(words, row["words"]) || any?(works.map(&:family), row["families"]) ||
          any?(works.map(&:circuit), row["circuits"])
      end

      # The fewest legs that meet all demands on one kind of leg: [[low, high, Array of Demand], ...].
      def self.groups(demands)
        free, bound = demands.partition { |each| each.speed.nil? }
        made =
          bound
            .sort_by { |each| each.speed.last }
            .each_with_object([]) do |each, groups|
              group = groups.find { |low, high, _| [low, each.speed.first].max < [high, each.speed.last].min }
              next groups << [*each.speed, [each]] unless group

              group[0] = [group[0], each.speed.first].max
              group[1] = [group[1], each.speed.last].min
              group[2] << each
            end
        free.empty? ? made : [[nil, nil, free], *made]
      end

      def self.demands_of(row)
        row["legs"].map do |each|
          Demand.new(
            row: row,
            leg: each["leg"],
            speed: each["speed"],
            metres: each["metres"],
            seconds: each["seconds"],
            stops: each["stops"] || 0
          )
        end
      end

      def self.legs(leg, demands, codes)
        groups = groups(demands)
        groups.each_with_index.map do |(low, high, group), i|
          rows = group.map(&:row).uniq
          Leg.new(
            id: i.zero? ? leg["id"] : "#{leg["id"]}_#{i + 1}",
            leg: leg["id"],
            title: title(leg["title"], groups, i),
            said: leg["said"],
            proves:
              (codes if group.any? { |each| each.row["families"] != ["*"] }).to_a + rows.map { |row| row["proves"] },
            speed_km_h: low && [low, high],
            distance_m: group.filter_map(&:metres).max,
            seconds: group.filter_map(&:seconds).max,
            turns: leg["turns"],
            stops: group.map(&:stops).max,
            lift: leg["lift"],
            why_not: rows.filter_map { |row| row["not_on_lift"] },
            sources: rows.map { |row| row["source"] }
          ).freeze
        end
      end

      # No two legs carry the same name: legs of one kind differ by their speed, the slowest first.
      def self.title(name, groups, place)
        return name if groups.size == 1
        return "#{name}, standing" if groups[place].first.nil?

        bound = groups.reject { |low, _, _| low.nil? }
        at = place - (groups.size - bound.size)
        return name if bound.size == 1

        "#{name}, #{bound.size == 2 ? %w[slower faster][at] : "speed #{at + 1} of #{bound.size}"}"
      end

      def self.any?(words, patterns)
        (patterns || []).any? { |pattern| words.any? { |word| Vocabulary.fits?(pattern, word) } }
      end
      private_class_method :demands_of, :legs, :title, :any?
    end
  end
end
