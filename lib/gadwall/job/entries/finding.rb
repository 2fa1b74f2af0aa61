# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # An outcome seen at a test: a look, a lamp, a live value. capture: of which capture it was taken, or nil.
      class Finding < Entry
        KIND = "finding"
        VERSION = 1

        # Id of the outcome where it was read already, else nil.
        attr_reader :result

        # test: full id; typed: as entered; result: id of an outcome. Returns a Finding.
        def self.of(test:, typed:, result:, condition: nil, phase: nil)
          row = {
            "kind" => KIND,
            "test" => test,
            "result" => typed,
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

        # The outcome as it was entered.
        def typed
          data["result"].to_s
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
          text!("result", 200, "what was seen")
          one_of!("phase", PHASES, optional: true)
        end
      end
    end
  end
end
