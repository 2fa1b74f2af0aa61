# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # What a test showed. A subclass says in FIELD under which name it stands.
      class Observed < Entry
        include Seen

        # What was read, as a Quantity::Reading or the id of an outcome, where it was parsed already, so that it is not
        # parsed again on its way to the page; else nil.
        attr_reader :result

        # fault: of Evidence::PRESENCES, was it there meanwhile, or nil for what was said last. test: full id; typed: as
        # entered; result: what was read from it. Returns an entry of this class.
        def self.of(test:, typed:, result:, condition: nil, phase: nil, fault: nil)
          row = {
            "kind" => self::KIND,
            "test" => test,
            self::FIELD => typed,
            "condition" => condition,
            "fault" => fault,
            "phase" => phase
          }
          new(row.compact, result)
        end

        def initialize(hash, result = nil)
          @result = result
          super(hash)
        end

        # Full id of the test.
        def test
          data["test"]
        end

        # As it was entered.
        def typed
          data[self.class::FIELD].to_s
        end

        # Of Evidence::CONDITIONS, or nil.
        def condition
          data["condition"]
        end

        private

        def check
          text!("test", 200, "the name of a test")
          one_of!("phase", PHASES, optional: true)
          one_of!("fault", Evidence::PRESENCES.keys, optional: true)
        end
      end
    end
  end
end
