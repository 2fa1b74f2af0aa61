# frozen_string_literal: true

module Gadwall
  module Diagnosis
    module Needs
      # Something that must have been shown before a suspect is called proven. Each says so in words (TEXT).
      class Need
        # examined: Examined; choice: TestChoice; planner: NextTests.
        def initialize(examined, choice, planner)
          @examined = examined
          @choice = choice
          @planner = planner
        end

        # What is asked, in words.
        def text
          self.class::TEXT
        end

        # Was it shown? suspect: Suspects::Suspect with a fault.
        def met?(_suspect)
          raise NotImplementedError, "#{self.class} does not say when it is met"
        end

        # Full ids of the tests that would show it, [] where none would.
        def tests(_suspect)
          []
        end

        private

        attr_reader :examined, :choice, :planner
      end
    end
  end
end
