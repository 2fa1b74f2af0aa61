# frozen_string_literal: true

module Gadwall
  module Proof
    # Is the fault gone? Post-scan, the confirming tests repeated, the road test. Read from the log alone.
    class Check
      # done: was it done; good: did it pass (nil while it is not done); detail: text or nil.
      Item = Struct.new(:id, :title, :text, :done, :good, :detail, keyword_init: true)
      # A test that showed the fault, to be repeated: Vehicle::System::Circuit, Testing::Test and the reading of before.
      Confirming = Struct.new(:id, :circuit, :test, :before, keyword_init: true)

      # ScanComparison of pre-scan and post-scan, or nil while one is missing.
      attr_reader :comparison

      # log: Job::Log; confirming: [{"test" =>, "typed" =>}, ...] as the decision kept them.
      def initialize(log, confirming)
        @log = log
        scans = log.of("scan")
        first = scans.find { |entry| !entry.after? }
        last = scans.reverse.find(&:after?)
        @comparison = first && last ? ScanComparison.new(first, last) : nil
        @confirming = confirming.map { |row| confirming_test_of(row) }.freeze
        freeze
      end

      # Array of Item, in the order of the work.
      def items
        [scan_item, *repeat_items, *drive_items]
      end

      # The first confirming test that was not repeated yet, as a Confirming; nil when all were.
      def confirming_test
        @confirming.find { |each| repeated(each).nil? }
      end

      # Is every check done, and good?
      def proven?
        items.all? { |item| item.done && item.good }
      end

      # Titles of what is not done or not good: the customer must be told of it when the vehicle leaves all the same.
      def open_points
        items.reject { |item| item.done && item.good }.map(&:title)
      end

      private

      def confirming_test_of(row)
        circuit, test = @log.system.test(row["test"])
        Confirming.new(id: row["test"], circuit: circuit, test: test, before: row["typed"]).freeze
      end

      # The same test after the repair, as an Evidence::Observation, or nil.
      def repeated(confirming)
        entry =
          @log.valid_entries.reverse.find do |each|
            each.respond_to?(:test) && each.after? && each.test == confirming.id
          end
        entry && @log.observation(entry)
      end

      def scan_item
        Item.new(
          id: "scan",
          title: "Post-scan",
          text: "All modules again: DTCs gone, stayed, new.",
          done: !comparison.nil?,
          good: comparison&.clean?,
          detail: comparison && counts
        )
      end

      def counts
        "#{comparison.gone.size} gone, #{comparison.stayed.size} stayed, #{comparison.new.size} new, " \
          "#{comparison.turned_to_history.size} turned to history"
      end

      def repeat_items
        @confirming.map do |confirming|
          again = repeated(confirming)
          Item.new(
            id: "repeat",
            title: "Confirming test, repeated: #{confirming.test.title}",
            text: confirming.test.where,
            done: !again.nil?,
            good: again && Diagnosis::Coverage.may_be_normal?(again),
            detail: "before #{confirming.before}#{", after #{again.typed}" if again}"
          )
        end
      end

      def drive_items
        results = drive_results
        @log.system.catalogue.drive.values.map do |row|
          result = results[row["id"]]
          Item.new(
            id: "drive.#{row["id"]}",
            title: row["title"],
            text: row["road"] ? "#{row["text"]} On the road: not on a lift." : row["text"],
            done: !result.nil?,
            good: result && result == "pass",
            detail: result
          )
        end
      end

      # {item => "pass" or "fail"}, the last of each. Jobs of the first format kept them as steps.
      def drive_results
        old = @log.steps.select { |entry| entry.step.start_with?("drive.") }
        old
          .to_h { |entry| [entry.step.delete_prefix("drive."), entry.value == "failed" ? "fail" : "pass"] }
          .merge(@log.of("drive").to_h { |entry| [entry.item, entry.result] })
      end
    end
  end
end
