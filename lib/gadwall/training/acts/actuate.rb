# frozen_string_literal: true

module Gadwall
  module Training
    module Acts
      # A pump, valve or motor driven by its module. Answers what the module says; what it does is seen by the test that
      # watches it.
      class Actuate < Act
        MINUTES = 1.0 # demo
        OUTPUT = 0x3001 # demo: identifier of the output that a circuit's module drives

        # As of Act.
        def perform
          ecu = circuit.module && vehicle.ecu(circuit.module)
          refuse("actuate", circuit.title, "a circuit that a module drives") unless ecu

          stand.spend(MINUTES)
          answer = stand.interface.actuate(ecu.request_id, OUTPUT)
          return say("#{circuit.title}: no answer from #{ecu.name}") unless answer

          say(answer.positive ? "#{circuit.title}: driven for a moment" : "Refused: #{refusal([answer])}")
        end
      end
    end
  end
end
