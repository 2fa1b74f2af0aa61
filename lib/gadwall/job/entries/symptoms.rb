# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # The complaint: patterns of data/codes/symptoms, the customer's words, and what keeps the vehicle off the road.
      class Symptoms < Entry
        include Withdrawable

        KIND = "symptoms"
        VERSION = 1

        # Ids of data/codes/symptoms.yml.
        def ids
          data["ids"] || []
        end

        # The customer's words.
        def words
          data["words"]
        end

        # Ids of Triage.
        def triage
          data["triage"] || []
        end

        # Are the workshop's closed cases counted for this vehicle?
        def shop_cases?
          data["shop_cases"] != false
        end

        # Number of the job whose vehicle came back, or nil.
        def comeback_of
          data["comeback_of"]
        end

        # Does the diagnosis use it?
        def evidence?
          true
        end

        private

        def check
          list!("ids")
          list!("triage")
          text_or_nothing!("words", 4000)
          text_or_nothing!("comeback_of", 20)
          one_of!("shop_cases", [true, false], optional: true)
        end
      end
    end
  end
end
