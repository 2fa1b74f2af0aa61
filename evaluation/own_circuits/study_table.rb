# frozen_string_literal: true

module Gadwall
  module Evaluation
    module OwnCircuits
      # What a Study found, as Markdown: by family, by strategy, how well the probabilities are meant, what was
      # condemned.
      class StudyTable
        BANDS = [[0.3, 0.5], [0.5, 0.7], [0.7, 0.85], [0.85, 0.95], [0.95, 0.99], [0.99, 1.01]].freeze

        # rows: {"advised" => [Study::Row, ...], "textbook" => [...], "cheapest" => [...]}, single faults; pairs:
        # [Study::Row].
        def initialize(rows, pairs)
          @rows = rows
          @pairs = pairs
        end

        # The whole table as text.
        def to_s
          [by_family, as_they_come, strategies, pairs, calibration, condemned].join("\n\n")
        end

        # Share of runs with the right repair, 0..1.
        def self.right(rows)
          rows.count(&:right) / rows.size.to_f
        end

        # The same, each run by how often such a vehicle comes in.
        def self.right_as_they_come(rows)
          rows.sum { |row| row.right ? row.weight : 0.0 } / rows.sum(&:weight)
        end

        # [[from, to, count, mean p, share right], ...]: every leading suspect on the way, by the probability it was
        # given. Probabilities are meant for vehicles as they come in, so runs count by their weight.
        def self.reliability(rows)
          given = rows.flat_map { |row| row.beliefs.map { |p, right| [p, right, row.weight] } }
          BANDS.filter_map do |from, to|
            inside = given.select { |p, _, _| p >= from && p < to }
            next if inside.empty?

            whole = inside.sum(&:last)
            mean = inside.sum { |p, _, weight| p * weight } / whole
            [from, to, inside.size, mean, inside.sum { |_, right, weight| right ? weight : 0.0 } / whole]
          end
        end

        private

        def advised
          @rows.fetch("advised")
        end

        def by_family
          head = "| family | runs | right | proven | median tests | median minutes |\n|---|---|---|---|---|---|\n"
          lines = advised.group_by(&:family).sort.map { |family, rows| "| #{family.tr("_", " ")} | #{cells(rows)} |" }
          head + (lines << "| all | #{cells(advised)} |").join("\n")
        end

        def cells(rows)
          [
            rows.size,
            percent(self.class.right(rows)),
            percent(rows.count { |row| row.state == "proven" } / rows.size.to_f),
            median(rows.map(&:tests)),
            median(rows.map(&:minutes))
          ].join(" | ")
        end

        def as_they_come
          "Every place of every circuit is drawn alike. Each run by how often such a vehicle comes in: " \
            "#{percent(self.class.right_as_they_come(advised))} right, pairs " \
            "#{percent(self.class.right_as_they_come(@pairs))}."
        end

        def strategies
          head =
            "| strategy | runs | right | median tests | median minutes | mean minutes |\n|---|---|---|---|---|---|\n"
          head +
            @rows
              .map do |name, rows|
                "| #{name} | " \
                  "#{rows.size} | " \
                  "#{percent(self.class.right(rows))} | " \
                  "#{median(rows.map(&:tests))} | " \
                  "#{median(rows.map(&:minutes))} | #{(rows.sum(&:minutes) / rows.size.to_f).round} |"
              end
              .join("\n")
        end

        def pairs
          "Pairs of faults: " \
            "#{@pairs.size} runs, #{percent(self.class.right(@pairs))} right, median " \
            "#{median(@pairs.map(&:tests))} tests and #{median(@pairs.map(&:minutes))} minutes."
        end

        def calibration
          head = "| leader given at | times | mean p | right |\n|---|---|---|---|\n"
          head +
            self
              .class
              .reliability(advised + @pairs)
              .map do |from, to, count, mean, right|
                "| #{from} to #{[to, 1.0].min} | #{count} | #{mean.round(3)} | #{percent(right)} |"
              end
              .join("\n")
        end

        def condemned
          all = advised + @pairs
          "A sound control module called proven: #{all.count(&:condemned)} of #{all.size} runs."
        end

        def percent(share)
          "#{(share * 100).round(1)} %"
        end

        def median(values)
          values.sort[values.size / 2]
        end
      end
    end
  end
end
