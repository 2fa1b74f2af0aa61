# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # The vehicle came back with the same complaint, or with another.
      class Comeback < Entry
        KIND = "comeback"
        VERSION = 1

        # What the customer says.
        def words
          data["words"]
        end

        # Is it the same complaint?
        def same?
          data["same"] == true
        end

        # Does it say that the repair did not cure the vehicle?
        def repeats?
          same?
        end

        private

        def check
          text!("words", 4000, "what the customer reports")
          one_of!("same", [true, false])
        end
      end
    end
  end
end
