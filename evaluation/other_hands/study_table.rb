# frozen_string_literal: true

module Gadwall
  module Evaluation
    module OtherHands
      # What a Study found, as Markdown: by kind, and each figure that is to be reached.
      class StudyTable
        BANDS = [[0.8, 0.95], [0.95, 0.99], [0.99, 1.01]].freeze

        # rows: Array of Run::Row.
        def initialize(rows)
          @rows = rows
        end

        # The whole table as text.
        def to_s
          [by_kind, *figures.map { |name, value| "- #{name}: #{value}" }, calibration].join("\n")
        end

        # {name => figure} of what is to be reached.
        def figures
          {
            "proven, and wrong" => "#{percent(wrong_proofs, proofs)} of #{proofs}",
            "sound modules proven" => @rows.count(&:module_wrong),
            "right place on top" => percent(faulty.count(&:top), faulty.size),
            "every fault found and no wrong line" => percent(@rows.count(&:right), @rows.size),
            "two faults" => percent(pairs.count(&:right), pairs.size),
            "nothing wrong concluded" =>
              percent(nothing.count(&:nothing), nothing.size) + ", median #{median(nothing.map(&:tests))} tests",
            "single slips healed" => percent(slipped.count { |row| !wrong_end?(row) }, slipped.size),
            "runs with true readings in doubt" => percent(@rows.count { |row| row.doubted.positive? }, @rows.size),
            "idle repeats" => @rows.sum(&:repeats),
            "median tests and minutes to a verdict" =>
              "#{median(concluded.map(&:tests))} and #{median(concluded.map(&:minutes))}"
          }
        end

        # Share (0..1) of proofs that are wrong.
        def wrong_share
          proofs.zero? ? 0.0 : wrong_proofs / proofs.to_f
        end

        private

        def faulty
          @rows.reject { |row| row.kind == "nothing wrong" }
        end

        def pairs
          @rows.select { |row| row.kind == "two faults" }
        end

        def nothing
          @rows.select { |row| row.kind == "nothing wrong" }
        end

        def slipped
          @rows.select { |row| row.slips == 1 }
        end

        # Ends on something that is not so.
        def wrong_end?(row)
          row.proven_wrong.any?(false)
        end

        def concluded
          faulty.select { |row| row.state == "proven" }
        end

        def proofs
          @rows.sum { |row| row.proven_wrong.size }
        end

        def wrong_proofs
          @rows.sum { |row| row.proven_wrong.count(false) }
        end

        def by_kind
          head =
            "| kind | runs | on top | right | proven | wrongly | median tests | minutes |\n" \
              "|---|---|---|---|---|---|---|---|\n"
          lines = @rows.group_by(&:kind).map { |kind, rows| "| #{kind} | #{cells(rows)} |" }
          head + (lines << "| all | #{cells(@rows)} |\n").join("\n")
        end

        def cells(rows)
          [
            rows.size,
            percent(rows.count(&:top), rows.size),
            percent(rows.count(&:right), rows.size),
            percent(rows.count { |row| row.state == "proven" }, rows.size),
            rows.count { |row| row.proven_wrong.any?(false) },
            median(rows.map(&:tests)),
            median(rows.map(&:minutes))
          ].join(" | ")
        end

        def calibration
          given = @rows.flat_map(&:beliefs)
          lines =
            BANDS.filter_map do |from, to|
              inside = given.select { |p, _| p >= from && p < to }
              next if inside.empty?

              mean = inside.sum(&:first) / inside.size
              "| #{from} to #{[to, 1.0].min} | #{inside.size} | #{mean.round(3)} | " \
                "#{percent(inside.count(&:last), inside.size)} |"
            end
          "\n| leader given at | times | mean p | right |\n|---|---|---|---|\n#{lines.join("\n")}"
        end

        def percent(count, of)
          of.zero? ? "-" : "#{(100.0 * count / of).round(1)} %"
        end

        def median(values)
          values.sort[values.size / 2]
        end
      end
    end
  end
end
