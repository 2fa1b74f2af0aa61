# frozen_string_literal: true

module Gadwall
  module Proof
    # Is the fault gone? Last scan, the telling reading taken again, the drive.
    class Check
      Item = Struct.new(:id, :title, :text, :done, :good, :detail, keyword_init: true)

      attr_reader :comparison

      # log: Evidence::Log; assessment: of the evidence before the repair.
      def initialize(log, assessment)
        @log = log
        @assessment = assessment
        first = log.of("scan").find { |entry| entry["phase"] != "after" }
        last = log.of("scan").reverse.find { |entry| entry["phase"] == "after" }
        @comparison = first && last ? ScanComparison.new(first, last) : nil
        @confirming_tests =
          assessment.verdict.conclusions.filter_map { |conclusion| confirming_test_of(conclusion) }.uniq
        freeze
      end

      def items
        [scan_item, *repeat_items, *drive_items]
      end

      # The reading that told most for a conclusion of investigation, to be taken again: the first that was not yet; nil
      # when all were.
      def confirming_test
        @confirming_tests.find { |observation| repeated(observation).nil? }
      end

      def proven?
        items.all? { |item| item.done && item.good }
      end

      # Things that must be told to the customer when the vehicle leaves all the same.
      def open_points
        items.reject { |item| item.done && item.good }.map(&:title)
      end

      private

      # Of the readings that are not as they should be in this conclusion's circuits, the one that spoke most for its
      # suspect.
      def confirming_test_of(conclusion)
        mine =
          @assessment.weights.select do |row|
            conclusion.investigation.covers?(row.observation.circuit.id) &&
              !@assessment.coverage.normal?(row.observation)
          end
        mine.max_by(&:bits)&.observation
      end

      # The same test again, after the repair, as an Observation.
      def repeated(observation)
        id = "#{observation.circuit.id}.#{observation.test.id}"
        entry = @log.valid_entries.reverse.find { |each| each["phase"] == "after" && each["test"] == id }
        entry && @log.observation(entry)
      end

      def scan_item
        Item.new(
          id: "scan",
          title: "Last scan",
          text: "All modules again: gone, stayed, new.",
          done: !@comparison.nil?,
          good: @comparison&.clean?,
          detail:
            @comparison &&
              "#{@comparison.gone.size} gone, #{@comparison.stayed.size} stayed, " \
                "#{@comparison.new.size} new, #{@comparison.turned_to_history.size} turned to history"
        )
      end

      def repeat_items
        @confirming_tests.map do |observation|
          again = repeated(observation)
          Item.new(
            id: "repeat",
            title: "The telling reading again: #{observation.test.title}",
            text: observation.test.where,
            done: !again.nil?,
            good: again && @assessment.coverage.normal?(again),
            detail: "before #{observation.typed}#{", after #{again.typed}" if again}"
          )
        end
      end

      def drive_items
        signed =
          @log
            .of("step")
            .select { |entry| entry["step"].to_s.start_with?("drive.") }
            .to_h { |entry| [entry["step"].delete_prefix("drive."), entry] }
        @log.system.catalogue.drive.values.map do |row|
          entry = signed[row["id"]]
          Item.new(
            id: "drive.#{row["id"]}",
            title: row["title"],
            text: row["road"] ? "#{row["text"]} On the road: a lift does not count." : row["text"],
            done: !entry.nil?,
            good: entry && entry["value"] != "failed",
            detail: entry && entry["value"]
          )
        end
      end
    end
  end
end
