# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Which lit lamps, and which modules that did not respond, the leading suspects do not explain. What nothing
    # explains is a fault of its own, as a code is, until the circuits that can be the cause have been measured.
    class LampExplanations
      MOST = 0.8 # share of a circuit's faults that must have had the chance to show before it is cleared; from memory

      # A lit lamp that is left over: its name, and the circuits that can light it and that nobody measured yet.
      Left = Struct.new(:name, :circuits)

      # posterior: Posterior; body: Observations::Body; suspects: Array of Suspects::Suspect.
      def initialize(posterior, body, suspects)
        @posterior = posterior
        @body = body
        @catalogue = posterior.system.catalogue
        @suspected = suspects.flat_map(&:members).map(&:first).uniq
        @measured = body.observations.map { |each| each.circuit.id }.uniq
      end

      # Array of Left.
      def left
        @suspected.empty? ? [] : lamps_left + modules_left
      end

      private

      def lamps_left
        lit = @body.lamps.select { |lamp| lamp.lit && lamp.time != "never" }.map(&:id)
        lit
          .reject { |id| @suspected.any? { |circuit| lights?(id, circuit) || lit_by_silence?(id, circuit) } }
          .filter_map do |id|
            circuits = unmeasured(id)
            Left.new(@catalogue.lamps.dig(id, "name"), circuits) if circuits.any?
          end
      end

      # Modules that did not respond to the last scan that asked them.
      def modules_left
        silent
          .reject { |id| @suspected.any? { |circuit| concerns?(circuit, id) } }
          .filter_map do |id|
            circuits =
              [@posterior.system.supply_of(id), *@posterior.system.buses_of(id)].compact.reject do |circuit|
                @measured.include?(circuit.id)
              end
            Left.new("#{id.tr("_", " ")} module does not respond", circuits) if circuits.any?
          end
      end

      # Ids of modules that did not respond to the last scan that asked them.
      def silent
        @silent ||=
          @body
            .scans
            .sort_by(&:seq)
            .reduce({}) { |known, scan| known.merge(scan.modules) }
            .select { |_, answered| answered == false }
            .keys
      end

      # Does the circuit feed the module, or is it a bus that the module hangs on? Who hangs on no other bus of the
      # sheet hangs on the body's single wire.
      def concerns?(circuit, id)
        circuit.module == id || circuit.harness.modules.any? { |each, _| each == id } ||
          (circuit.family == "single_wire_bus" && @posterior.system.buses_of(id).empty?)
      end

      CLUSTER = "cluster" # common practice: an instrument cluster without messages lights its lamps by itself
      private_constant :CLUSTER

      # Does the circuit keep a module silent whose lamp this is?
      def lit_by_silence?(lamp, circuit)
        silent.any? do |id|
          concerns?(circuit, id) &&
            (id == CLUSTER || @posterior.system.circuits.any? { |each| each.module == id && lights?(lamp, each) })
        end
      end

      def lights?(id, circuit)
        Vehicle::Lamps.lights?(@catalogue, id, circuit)
      end

      # Would most of what can be wrong in the circuit have shown in what was measured?
      def cleared?(circuit)
        tests = @body.observations.select { |each| each.circuit.id == circuit.id }.map(&:test)
        Coverage.share_shown(@posterior, circuit, tests) >= MOST
      end

      # The likeliest of those that can light a lamp first.
      def unmeasured(id)
        @posterior
          .system
          .circuits
          .select { |circuit| lights?(id, circuit) && !cleared?(circuit) }
          .sort_by { |circuit| -@posterior.circuit_probability(circuit) }
      end
    end
  end
end
