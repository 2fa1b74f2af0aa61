# frozen_string_literal: true

module Gadwall
  module Diagnosis
    module Needs
      # A signal known to be good made no difference: nothing but the module can have spoilt it. Of a cause that reaches
      # several circuits, at two of them.
      class GoodInput < Need
        TEXT = "A known-good signal fed in at the module"

        # As of Need.
        def met?(suspect)
          suspect.cause ? examined.isolated_members(suspect).size > 1 : examined.isolated?(suspect)
        end

        # As of Need: at the next member that has none yet.
        def tests(suspect)
          return [choice.isolating(suspect, [])].compact unless suspect.cause

          left = (suspect.members - examined.isolated_members(suspect)).first(1)
          left.filter_map { |circuit, fault| choice.spoilt_by_place(circuit, fault) }
        end
      end
    end
  end
end
