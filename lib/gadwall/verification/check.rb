# frozen_string_literal: true

module Gadwall
  module Verification
    # Is the fault gone? Post-scan, the gate of the yard, the legs of the proof drive, the confirming tests repeated,
    # and what is signed when the vehicle is handed back. Read from the log alone.
    class Check
      # done: was it done; good: did it pass (nil while it is not done); detail: text or nil; leg: DriveLegs::Leg or
      # nil; row: Repair::Progress::Row to be signed, or nil.
      Item = Struct.new(:id, :title, :text, :done, :good, :detail, :leg, :row, keyword_init: true)
      # A test that showed the fault, to be repeated: Vehicle::System::Circuit, Tests::Test and the reading of before.
      Confirming = Struct.new(:id, :circuit, :test, :before, keyword_init: true)

      # ScanComparison of pre-scan and post-scan, or nil while one is missing; legs: of the proof drive.
      attr_reader :comparison, :legs

      # log: Job::Log; confirming: [{"test" =>, "typed" =>}, ...] as the decision kept them; progress: Repair::Progress
      # of the plan.
      def initialize(log, confirming, progress)
        @log = log
        @progress = progress
        scans = log.of("scan")
        first = scans.find { |entry| !entry.after? }
        last = scans.reverse.find(&:after?)
        @comparison = first && last ? ScanComparison.new(first, last) : nil
        @confirming = confirming.map { |row| confirming_test_of(row) }.freeze
        @legs = legs_of(log.plan).freeze
        freeze
      end

      # Array of Item, in the order of the work.
      def items
        gate, last = @progress.proof.partition { |row| row.step.phase == "drive" }
        [scan_item, *repeat_items, *gate.map { |row| step_item(row) }, *drive_items, *last.map { |row| step_item(row) }]
      end

      # The first confirming test that was not repeated yet, as a Confirming; nil when all were.
      def confirming_test
        @confirming.find { |each| repeated(each).nil? }
      end

      # Legs of the drive that have not passed yet: Array of DriveLegs::Leg.
      def open_legs
        results = drive_results
        legs.reject { |leg| results[leg.id] == "pass" }
      end

      # Legs still open that the last log of the drive showed as driven: {leg id => sentence}; none where the log shows
      # that something is wrong.
      def driven_by_log
        return {} if drive_log.nil? || drive_log.findings.any?

        open = open_legs.map(&:id)
        rows = drive_log.legs.select { |row| row["driven"] && open.include?(row["leg"]) }
        rows.to_h { |row| row.values_at("leg", "said") }
      end

      # The last log of this drive as an entry, or nil; one counts no more once a drive was signed after it.
      def drive_log
        last = @log.of("drive_log").last
        last unless last.nil? || @log.of("drive").any? { |entry| entry.seq > last.seq }
      end

      # Of codes that the drive must prove, what the last scan after the repair says of their monitors, by its status
      # bits: {code => true where it ran since the last erasure, false where it did not}; none where no status was
      # read.
      def monitors_by_status
        scan = @log.of("scan").reverse.find(&:after?) or return {}
        rows = scan.codes.flat_map { |row| names(row).map { |name| [name, ran?(row["status"])] } }
        rows.compact.to_h
      end

      # Steps of the gate of the yard that are not signed: no leg on the road before them. Array of Progress::Row.
      def open_gate
        @progress.proof.select { |row| row.step.phase == "drive" && row.step.protects && !row.done? }
      end

      # Is every check done, and good?
      def proven?
        items.all? { |item| item.done && item.good }
      end

      # Titles of what is not done or not good: the customer must be told of it when the vehicle leaves all the same.
      def open_points
        items.reject { |item| item.done && item.good }.map(&:title)
      end

      # Steps that protect somebody and are not signed: without them the vehicle does not leave.
      def shut
        @progress.proof.select { |row| row.step.protects && !row.done? }.map(&:title)
      end

      private

      WORDS = { "current" => true, "passed" => true, "not_tested" => false }.freeze
      private_constant :WORDS

      # status: as in a scan; nil where it does not tell.
      def ran?(status)
        return WORDS[status] unless status.to_s.match?(/\A\h\h\z/)

        TroubleCodes::StatusByte.parse(status).completed?
      end

      # What a code is called in the legs of a drive.
      def names(row)
        [row["code"], row.values_at("code", "failure_type").compact.join("-")].compact.uniq
      end

      # Plans of before the drive was composed have the five lines of then.
      def legs_of(plan)
        return plan.drive.map { |row| Repair::DriveLegs::Leg.from_h(row) } if plan&.drive

        @log.system.catalogue.first_drive.values.map do |row|
          Repair::DriveLegs::Leg.from_h(
            "lift" => !row["road"],
            "proves" => [],
            "said" => row["text"],
            **row.slice("id", "title")
          )
        end
      end

      def confirming_test_of(row)
        circuit, test = @log.system.test(row["test"])
        Confirming.new(id: row["test"], circuit: circuit, test: test, before: row["typed"]).freeze
      end

      # The same test after the repair, as an Observations::Observation, or nil.
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
          text: "All modules again: DTCs gone, stayed, new. Once more after the drive.",
          done: !comparison.nil?,
          good: comparison&.clean?,
          detail: comparison&.sentence
        )
      end

      def step_item(row)
        Item.new(
          id: "step.#{row.id}",
          title: row.title,
          text: row.step.text,
          done: row.done?,
          good: row.done?,
          detail: (row.entered unless row.entered.empty?),
          row: row
        )
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
        legs.map do |leg|
          result = results[leg.id]
          Item.new(
            id: "drive.#{leg.id}",
            title: leg.title,
            text: leg.lift ? leg.said : "#{leg.said} On the road: not on a lift.",
            done: !result.nil?,
            good: result && result == "pass",
            detail: result,
            leg: leg
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
