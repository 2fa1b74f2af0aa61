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

        # Id of the step of the plan that it was for, or nil.
        def step
          data["step"]
        end

        # The negative response that refused it, as a byte ("22"), or nil.
        def code
          data["code"]
        end

        # What was read before and after it, or nil.
        def before
          data["before"]
        end

        # As `before`.
        def after
          data["after"]
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
          %w[note before after step].each { |name| text_or_nothing!(name, 1000) }
          text_or_nothing!("code", 2)
        end
      end
    end
  end
end
