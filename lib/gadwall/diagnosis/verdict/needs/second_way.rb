# frozen_string_literal: true

module Gadwall
  module Diagnosis
    module Needs
      # Shown by two tests that differ.
      class SecondWay < Need
        TEXT = "Pressure shown by a second test"

        # As of Need.
        def met?(suspect)
          examined.accusing(suspect).map { |each| each.test.id }.uniq.size > 1
        end

        # As of Need.
        def tests(suspect)
          [choice.spoilt(suspect.circuit, suspect.fault)].compact
        end
      end
    end
  end
end
