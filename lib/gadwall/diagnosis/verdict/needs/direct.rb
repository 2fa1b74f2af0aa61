# frozen_string_literal: true

module Gadwall
  module Diagnosis
    module Needs
      # Something read or seen by hand speaks against the place; of a cause that reaches several circuits, in two of
      # them, unless one alone has told of it: a connector is mended alike, whichever it was.
      class Direct < Need
        TEXT = "Direct test at this location"

        # As of Need.
        def met?(suspect)
          section = suspect.place_kind == "section"
          wiring = section || (suspect.place_kind == "connector" && !suspect.cause)
          accused =
            suspect.members.count do |circuit, fault|
              accusing = examined.coverage.accusing(circuit.id, fault.place)
              wiring ? tells?(accusing) : accusing.any?
            end
          accused >= (suspect.cause && !told_by_one?(suspect) ? 2 : 1)
        end

        # As of Need.
        def tests(suspect)
          [choice.quickest_accusing(suspect)].compact
        end

        private

        def told_by_one?(suspect)
          return false if suspect.repair == StandingAlone::MODULE

          suspect.members.one? { |circuit, _| planner.coded?(circuit) || examined.of(circuit).any? }
        end

        # Do these readings tell more than a look that is often wrong, or one jump of a value?
        def tells?(accusing)
          moved, others = accusing.partition { |each| each.test.behaviour.moves_something? }
          moved.size > 1 || others.any? { |each| each.test.kind != "table" || sure?(each) }
        end

        def sure?(observation)
          planner.table(observation.circuit, observation.test).normal_density(observation.result) <=
            StandingAlone::SURE_LOOK
        end
      end
    end
  end
end
