# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # What is missing before a conclusion may be called proven. need: id of what is asked; text: the same in words;
    # reason: why; tests: full ids of tests that would show it; hangs_on: ids of tests without one of which the suspect
    # would not lead, or nil.
    Missing =
      Struct.new(:need, :text, :reason, :tests, :hangs_on, keyword_init: true) do
        # Worked out when they are asked for: most are not.
        def tests
          self[:tests].to_a
        end
      end
  end
end
