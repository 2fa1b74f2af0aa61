# frozen_string_literal: true

module Gadwall
  module Diagnosis
    module Needs
      # A module on a bus. One that is silent: its power and ground tested, and where they are good the bus at its
      # connector. One that pulls the bus down: the bus recovers without it, or it alone was measured.
      class Member < Need
        TEXT = "Power, ground and bus of this module tested, or the bus without it"

        # As of Need.
        def met?(suspect)
          OwnPlug.on_bus(suspect).nil? || missing(suspect).nil?
        end

        # As of Need.
        def tests(suspect)
          [missing(suspect)].compact
        end

        private

        def missing(suspect)
          return of_a_silent_one(suspect) if suspect.fault.mode == "silent"
          return if examined.isolated?(suspect, examined.cleared_places(suspect))

          choice.undone(suspect.circuit, "unplug_module.#{suspect.fault.place}")
        end

        def of_a_silent_one(suspect)
          id = "module_supply.#{suspect.fault.place}"
          supply = choice.undone(suspect.circuit, id)
          return supply if supply || suspect.circuit.model.tests[id].nil?

          found = examined.of(suspect.circuit).select { |each| each.test.id == id }
          bus_at_its_plug(suspect) unless found.any? { |each| each.result == "bad" }
        end

        # A test of the bus at the module's own connector, where none was done.
        def bus_at_its_plug(suspect)
          plug = OwnPlug.on_bus(suspect)
          at_plug = ->(test) { test.numeric? && examined.at_connector?(test, plug) }
          return if examined.of(suspect.circuit).any? { |each| at_plug.call(each.test) }

          choice.best(suspect.circuit, &at_plug)
        end
      end
    end
  end
end
