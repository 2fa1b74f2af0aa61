# frozen_string_literal: true

module Gadwall
  module Training
    module Acts
      # A module's codes read. module: id of its request. Raises Lost where the connection is cut.
      class Read < Act
        MINUTES = 0.4 # of one module, demo

        # As of Act.
        def perform
          id = given["module"].to_i
          stand.spend(MINUTES)
          read = stand.interface.read_module(id)
          name = vehicle.ecus.find { |ecu| ecu.request_id == id }&.name || id.to_s
          return say("#{name}: no answer") unless read

          words = read.codes.map { |word, _| word.to_s }
          say("#{name}: #{words.empty? ? "no code" : words.join(", ")}", read: read)
        end
      end
    end
  end
end
