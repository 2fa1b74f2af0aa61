# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # A number read at a test, as it was typed.
      class Reading < Entry
        KIND = "reading"
        VERSION = 1

        # The reading as a Quantity::Reading where it was parsed already, else nil.
        attr_reader :result

        # result: the reading parsed, so that it is not parsed again on its way to the page.
        def self.of(test:, typed:, result:, condition: nil, phase: nil)
          row = {
            "kind" => KIND,
            "test" => test,
            "reading" => typed,
            "condition" => condition,
            "phase" => phase
          }.compact
          new(row, result)
        end

        def initialize(hash, result = nil)
          @result = result
          super(hash)
        end

        # Full id of the test.
        def test
          data["test"]
        end

        # The reading as it was typed.
        def typed
          data["reading"].to_s
        end

        # Of Evidence::CONDITIONS, or nil.
        def condition
          data["condition"]
        end

        # Does the diagnosis use it?
        def evidence?
          !after?
        end

        # May it be taken back, with a reason?
        def withdrawable?
          true
        end

        private

        def check
          text!("test", 200, "the name of a test")
          given = data["reading"]
          fault!("reading", given, "what the meter showed") unless given.is_a?(Numeric) || given.is_a?(String)
          one_of!("phase", PHASES, optional: true)
        end
      end
    end
  end
end
