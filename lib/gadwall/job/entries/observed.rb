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

        # fault: of Observations::PRESENCES, was it there meanwhile, or nil for what was said last. test: full id;
        # typed: as entered; result: what was read from it. Returns an entry of this class.
        def self.of(test:, typed:, result:, condition: nil, phase: nil, fault: nil, caught: nil, tries: nil)
          row = {
            "kind" => self::KIND,
            "test" => test,
            self::FIELD => typed,
            "condition" => condition,
            "fault" => fault,
            "caught" => caught,
            "tries" => tries,
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

        # Of Observations::CONDITIONS, or nil.
        def condition
          data["condition"]
        end

        # [times that this result was seen, tries], or nil for one try.
        def caught
          data["tries"] && [data["caught"] || 1, data["tries"]]
        end

        MOST_TRIES = 100

        private

        def check
          text!("test", 200, "the name of a test")
          one_of!("phase", PHASES, optional: true)
          one_of!("fault", Observations::PRESENCES.keys, optional: true)
          tries!
        end

        def tries!
          tries = data["tries"] or return
          fault!("tries", tries, "1 to #{MOST_TRIES}") unless tries.is_a?(Integer) && tries.between?(1, MOST_TRIES)

          times = data["caught"]
          return if times.nil? || (times.is_a?(Integer) && times.between?(0, tries))

          fault!("caught", times, "how often it was seen, 0 to #{tries}")
        end
      end
    end
  end
end
