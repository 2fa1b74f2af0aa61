# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # The customer's decision on one place. From version 2 on with a snapshot of all that it was made of, so that
      # nothing later rewrites it; remaining: places that were still to be decided then.
      class Decision < Entry
        KIND = "decision"
        VERSION = 2

        # Id of the chosen option, of data/repairs/options.yml.
        def option
          data["option"]
        end

        # The location that it is for.
        def place
          data["place"]
        end

        # The customer's words.
        def words
          data["words"].to_s
        end

        # Who authorised the repair.
        def signed_by
          data["signed_by"].to_s
        end

        # The text that the customer saw when he answered on his own page, or nil.
        def shown
          data["shown"]
        end

        # Hash as Job::Snapshot writes it; nil in version 1.
        def snapshot
          data["snapshot"]
        end

        # Places that still had to be decided when this was signed; nil in version 1.
        def remaining
          data["remaining"]
        end

        private

        def check
          text!("option", 100, "the option chosen")
          text_or_nothing!("place", 400)
          return if version < 2

          fault!("snapshot", snapshot, "what the decision was made of") unless snapshot.is_a?(Hash)
          list!("remaining", optional: false)
        end
      end
    end
  end
end
