# frozen_string_literal: true

module Gadwall
  module CLI
    # `bin/gadwall faults`: every fault that a case's vehicle can have.
    class Faults < Command
      USAGE = ["faults CASE.json", "every fault that the case's vehicle can have"].freeze

      private

      def answer(path)
        case_at(path).system.circuits.flat_map do |circuit|
          circuit.model.faults.map do |fault|
            {
              fault: "#{circuit.id}.#{fault.id}",
              text: "#{circuit.title}: #{fault.name}",
              repair: fault.repair,
              source: fault.source
            }
          end
        end
      end
    end
  end
end
