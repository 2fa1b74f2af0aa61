# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # Is the fault there now? As the technician says: it holds for the readings that follow, until he says otherwise.
      class Presence < Entry
        include Withdrawable

        KIND = "presence"
        VERSION = 1

        # Of Observations::PRESENCES.
        def fault
          data["fault"]
        end

        # Does the diagnosis use it?
        def evidence?
          true
        end

        private

        def check
          one_of!("fault", Observations::PRESENCES.keys)
          text_or_nothing!("note", 1000)
        end
      end
    end
  end
end
