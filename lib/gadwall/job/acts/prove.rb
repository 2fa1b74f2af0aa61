# frozen_string_literal: true

module Gadwall
  module Job
    module Acts
      # A part of the road test, passed or failed. values: item (of data/repairs/drive.yml), result ("pass" or "fail").
      class Prove < Act
        private

        def closed
          before_decision || unfinished
        end

        def unfinished
          "Sign the steps of the repair first: the road test belongs after them." unless dossier.plan.done?
        end

        def check
          refuse("drive", "Choose a part of the road test.") unless dossier.catalogue.drive.key?(values[:item])
          refuse("drive", "Choose pass or fail.") unless Entries::Drive::RESULTS.include?(values[:result])
        end

        def entries
          [Entries::Drive.new("item" => values[:item], "result" => values[:result])]
        end
      end
    end
  end
end
