# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # A run of a set-up routine: with which tool, and what came of it.
      class SetUp < Entry
        KIND = "set_up"
        VERSION = 1

        RESULTS = %w[worked failed].freeze

        # The routine, in words.
        def routine
          data["routine"]
        end

        # The tool that ran it, or should have.
        def tool
          data["tool"]
        end

        # "worked" or "failed".
        def result
          data["result"]
        end

        # What else was noted.
        def note
          data["note"]
        end

        private

        def check
          text!("routine", 100, "the routine that was run")
          text!("tool", 100, "the tool that ran it")
          one_of!("result", RESULTS)
          text_or_nothing!("note", 1000)
        end
      end
    end
  end
end
