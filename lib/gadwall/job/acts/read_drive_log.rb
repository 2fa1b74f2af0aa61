# frozen_string_literal: true

module Gadwall
  module Job
    module Acts
      # A log of live data from the proof drive: the legs that it shows are ticked by it. values: name (of the file);
      # log (Signals::LiveLog).
      class ReadDriveLog < Act
        private

        def closed
          before_drive
        end

        def check
          required(:name, "Choose the log of the drive.", most: 255)
          return refuse("drive_log", "The log has no wheel speeds: name its columns, or sign the legs.") unless wheels?
          return if legs.any?

          refuse("drive_log", "No open leg of this drive shows in a log of live data: sign them one by one.")
        end

        def wheels?
          shown.wheels.any?
        end

        def shown
          @shown ||= Verification::DriveLog.new(values[:log], catalogue: dossier.system.catalogue)
        end

        def legs
          @legs ||= dossier.proof.open_legs.filter_map { |leg| shown.of(leg) }
        end

        def entries
          live = Signals::LiveData.new(values[:log], circumference_m: dossier.sheet.circumference_m)
          found = live.findings.map { |finding| finding[:text] }
          rows = { "legs" => legs.map(&:to_entry), "findings" => found }.reject { |_, each| each.empty? }
          [Entries::DriveLog.new({ "name" => text(:name), **rows })]
        end
      end
    end
  end
end
