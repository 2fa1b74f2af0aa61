# frozen_string_literal: true

module Web
  module Pages
    # Verifying the repair, and handing over.
    class ProofPage < Page
      # A check as it is drawn. mark: "✓", "✕" or "○"; look: "good", "bad" or "todo"; row: a step that is
      # still to be signed, or nil.
      ItemRow = Struct.new(:title, :text, :detail, :mark, :look, :row, keyword_init: true)

      # form: Forms::CodesForm of a post-scan that was refused, or nil.
      def initialize(dossier, form: nil, errors: {}, typed: {})
        super(dossier, errors: errors, typed: typed)
        @form = form
      end

      def stage
        "proof"
      end

      # Can checks be entered?
      def ready?
        !dossier.plan.nil? && dossier.plan.done? && !dossier.handed_over?
      end

      def handed_over?
        dossier.handed_over?
      end

      def verified?
        !proof.nil? && proof.proven?
      end

      def open_points
        proof ? proof.open_points : []
      end

      def items
        proof ? proof.items.map { |item| item_row(item) } : []
      end

      # Legs that are still to be driven: Array of Repair::DriveLegs::Leg; [] while the drive is not due.
      def drive_legs
        @drive_legs ||= ready? ? proof.open_legs : []
      end

      # Those of them that a log of the drive showed: {leg id => sentence}.
      def driven_by_log
        proof.driven_by_log
      end

      # What the last log of the drive showed, or nil.
      def drive_log
        proof.drive_log
      end

      # What it says of legs that are not driven yet: sentences.
      def short_of
        return [] unless drive_log

        titles = drive_legs.to_h { |leg| [leg.id, leg.title] }
        drive_log
          .legs
          .reject { |row| row["driven"] || !titles.key?(row["leg"]) }
          .map { |row| "#{titles.fetch(row["leg"])}: #{row["said"]}" }
      end

      # Can they be driven now?
      def drive_due?
        drive_legs.any? && proof.open_gate.empty?
      end

      # How long a leg is, in words that have units: ["200 m", "30 s", "3 stops"].
      def leg_lengths(leg)
        stops = leg.stops.to_i
        [
          leg.distance_m && "#{leg.distance_m} m",
          leg.seconds && "#{leg.seconds} s",
          ("#{stops} #{stops == 1 ? "stop" : "stops"}" if stops.positive?)
        ].compact
      end

      # Monitors of the legs that are still to be driven.
      def monitors
        drive_legs.flat_map(&:proves).uniq
      end

      # What the status bits of the last scan say of a monitor, or nil.
      def status_of(monitor)
        ran = monitors_by_status[monitor]
        ran.nil? ? nil : { true => "ran, by its status", false => "did not run, by its status" }.fetch(ran)
      end

      # What was ticked before the drive was refused.
      def failed?(leg_id)
        (typed["failed"] || []).include?(leg_id)
      end

      # As above.
      def not_run
        typed["not_run"] || (monitors_by_status.reject { |_, ran| ran }.keys & monitors)
      end

      # Names this drive, so that a page that is loaded again goes on at the same leg.
      def drive_key
        "#{number}-#{drive_legs.map(&:id).join("-")}"
      end

      # The drive as a strip, or nil where none is planned.
      def strip
        return if proof.nil? || proof.legs.empty?

        results = proof.items.select(&:leg).to_h { |item| [item.leg.id, item.detail] }
        here = proof.legs.find { |leg| results[leg.id].nil? }
        Svg::DriveStrip.new(proof.legs, results: results, here: here&.id)
      end

      # Metres of the whole drive, in words.
      def distance
        metres = proof.legs.sum { |leg| leg.distance_m.to_i }
        "#{(metres / 1000.0).round(1)} km"
      end

      def leg_count
        proof.legs.size
      end

      # How many clean trips make 95 percent, for a fault that came and went; nil elsewhere.
      def trips
        dossier.came_and_went? ? Gadwall::Verification::CleanTrips.table : nil
      end

      # The confirming test to be repeated next, or nil.
      def confirming
        ready? ? proof.confirming_test : nil
      end

      def unit
        { "ohm" => "Ω" }.fetch(confirming.test.unit, confirming.test.unit)
      end

      # Can a post-scan be entered?
      def scan_due?
        ready?
      end

      # Was one entered already?
      def scanned?
        !proof.comparison.nil?
      end

      def fields
        ScanFields.new(dossier.sheet, @form, errors, "DTCs, one per line; empty when there are none")
      end

      def road_caution
        catalogue.cautions["road"]["text"]
      end

      # Cautions of a step that the page does not say already.
      def cautions(row)
        row.step.cautions.map { |each| each["text"] } - [road_caution]
      end

      # What was typed for a figure before it was refused.
      def figure(id)
        (typed["figures"] || {})[id]
      end

      private

      def proof
        dossier.proof
      end

      def monitors_by_status
        @monitors_by_status ||= proof.monitors_by_status
      end

      def item_row(item)
        look =
          if item.done
            item.good ? "good" : "bad"
          else
            "todo"
          end
        open = ready? && !item.good
        ItemRow.new(
          title: item.title,
          text: item.text,
          detail: item.detail,
          mark: { "good" => "✓", "bad" => "✕", "todo" => "○" }.fetch(look),
          look: look,
          row: open && item.row&.reachable ? item.row : nil
        )
      end
    end
  end
end
