# frozen_string_literal: true

module Gadwall
  module Training
    module Acts
      # The codes of every module cleared.
      class Clear < Act
        MINUTES = 1.0 # demo

        # As of Act.
        def perform
          stand.spend(MINUTES)
          answers = vehicle.speaking.map { |ecu| stand.interface.clear(ecu.request_id)&.positive }
          say("#{answers.count(true)} modules cleared")
        end
      end
    end
  end
end
