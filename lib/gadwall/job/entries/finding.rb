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

        def test
          data["test"]
        end

        def typed
          data["result"].to_s
        end

        def condition
          data["condition"]
        end

        def evidence?
          !after?
        end

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
