# frozen_string_literal: true

module Gadwall
  module Proof
    # Is the fault gone? Last scan, the telling reading taken again, the drive.
    class Check
      Item = Struct.new(:id, :title, :text, :done, :good, :detail, keyword_init: true)

      attr_reader :comparison, :telling, :repeat

      # log: Evidence::Log; assessment: of the evidence before the repair.
      def initialize(log, assessment)
        @log = log
        @assessment = assessment
        first = log.of("scan").find { |entry| entry["phase"] != "after" }
        last = log.of("scan").reverse.find { |entry| entry["phase"] == "after" }
        @comparison = first && last ? ScanComparison.new(first, last) : nil
        @telling = assessment.weights.reject { |row| assessment.coverage.sound?(row.observation) }.max_by(&:bits)&.observation
        @repeat = repeated
        freeze
      end

      def items
        [scan_item, *repeat_item, *drive_items]
      end

      def proven?
        items.all? { |item| item.done && item.good }
      end

      # Things that must be told to the customer when the vehicle leaves all the same.
      def open_points
        items.reject { |item| item.done && item.good }.map(&:title)
      end

      private

      # The same test again, after the repair, as an Observation.
      def repeated
        return nil unless @telling

        id = "#{@telling.circuit.id}.#{@telling.test.id}"
        entry = @log.standing.reverse.find { |each| each["phase"] == "after" && each["test"] == id }
        entry && @log.observation(entry)
      end

      def scan_item
        Item.new(id: "scan", title: "Last scan", text: "All modules again: gone, stayed, new.", done: !@comparison.nil?, good: @comparison&.clean?,
                 detail: @comparison && "#{@comparison.gone.size} gone, #{@comparison.stayed.size} stayed, #{@comparison.new.size} new, #{@comparison.turned_to_history.size} turned to history")
      end

      def repeat_item
        return [] unless @telling

        good = @repeat && @assessment.coverage.sound?(@repeat)
        [Item.new(id: "repeat", title: "The telling reading again: #{@telling.test.title}", text: @telling.test.where, done: !@repeat.nil?, good: good,
                  detail: "before #{@telling.typed}#{", after #{@repeat.typed}" if @repeat}")]
      end

      def drive_items
        signed = @log.of("step").select { |entry| entry["step"].to_s.start_with?("drive.") }.to_h { |entry| [entry["step"].delete_prefix("drive."), entry] }
        @log.system.catalogue.drive.values.map do |row|
          entry = signed[row["id"]]
          Item.new(id: "drive.#{row['id']}", title: row["title"], text: row["road"] ? "#{row['text']} On the road: a lift does not count." : row["text"],
                   done: !entry.nil?, good: entry && entry["value"] != "failed", detail: entry && entry["value"])
        end
      end
    end
  end
end
