# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Does something that was read or seen by hand speak against a place? Part of Gates, which has the readings.
    module ShownByHand
      private

      # Something read by hand speaks against the place; of a cause that reaches several circuits, in two of them,
      # unless one alone has told of it: a connector is mended alike, whichever it was.
      def shown?(suspect)
        wiring = kind_of(suspect) == "section" || (kind_of(suspect) == "connector" && !suspect.cause)
        accused =
          suspect.members.count do |circuit, fault|
            accusing = @coverage.accusing(circuit.id, fault.place)
            wiring ? tells?(accusing) : accusing.any?
          end
        accused >= (suspect.cause && !told_by_one?(suspect) ? 2 : 1)
      end

      def told_by_one?(suspect)
        return false if suspect.repair == StandingAlone::MODULE

        suspect.members.one? { |circuit, _| @planner.coded?(circuit) || observations_of(circuit).any? }
      end

      # Did the warning go with a change at this very place, and stay away since? Seen before and after, it needs no
      # second reading.
      def put_right?(suspect)
        mine = observations_of(suspect.circuit)
        changes = mine.select { |each| each.test.record["changes"] == suspect.fault.place && each.result != "good" }
        changes.last&.result == "gone"
      end

      # Do these readings tell more than a look that is often wrong, or one jump of a value?
      def tells?(accusing)
        moved, others = accusing.partition { |each| each.test.behaviour.moves_something? }
        moved.size > 1 || others.any? { |each| each.test.kind != "table" || sure?(each) }
      end

      def sure?(observation)
        @planner.table(observation.circuit, observation.test).normal_density(observation.result) <=
          StandingAlone::SURE_LOOK
      end
    end
  end
end
