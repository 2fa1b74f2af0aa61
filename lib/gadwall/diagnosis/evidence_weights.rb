# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # What the evidence says of one circuit: for each atom and each presence, how likely everything seen there is,
    # against how likely it is with the circuit sound.
    #
    # Evidence is summed in logarithms (weight of evidence, Good 1950; from memory), so that no amount of it overflows,
    # and given out as shares of the strongest, exp(log ratio - peak): `ratios` of the atoms, `sound` of the sound
    # circuit (log_sound: its logarithm), `alternatives` of what a cause elsewhere makes of it. Their quotients are the
    # likelihood ratios.
    #
    # Presence 1.0 is a fault that is always there; the others come and go. ratios[presence index][atom index].
    # alternatives: "unpowered" (its module is dead), on a bus "silent_abs" (that module says nothing).
    class EvidenceWeights
      UNPOWERED = "unpowered"

      attr_reader :ratios, :sound, :log_sound, :alternatives, :observations

      # circuit: Vehicle::System::Circuit; body: Evidence::Body; presences: [1.0, ...]; catalogue: for the model's
      # numbers.
      def initialize(circuit, body, presences, catalogue)
        Thread.pass # others may go on: there are many circuits
        @model = circuit.model
        @catalogue = catalogue
        @presences = presences
        @scans = ScanWeights.of(circuit, body.scans, presences, catalogue)
        @observations = body.observations.select { |observation| observation.circuit.id == circuit.id }
        @logs, @alternative_logs = weighed(observations.size)
        scale
      end

      # By atom: log ratios of the scans alone, for faults that are always there.
      def scan_logs
        @scans.logs[0]
      end

      # By atom: how surely it leaves the circuit's module without power; nil for a circuit that carries none.
      def unpowering
        @model.unpowering
      end

      # The share that a likelihood ratio against the sound circuit has. log_ratio: its natural logarithm.
      def share(log_ratio)
        Math.exp(log_ratio - @peak)
      end

      private

      attr_reader :presences

      # Everything as shares of the strongest explanation.
      def scale
        @peak = [0.0, *@logs.map { |row| row.max || 0.0 }, *@alternative_logs.values].max
        @log_sound = -@peak
        @sound = share(0.0)
        @ratios = @logs.map { |row| shares(row) }
        @alternatives = @alternative_logs.transform_values { |log| share(log) }
      end

      # Atoms that show the same share a logarithm, so its exponential is taken once.
      def shares(row)
        known = {}
        row.map { |log| known[log] ||= share(log) }
      end

      # What the scans and the first `count` observations say: [logs by presence and atom, logs of the alternatives].
      # Kept with the model, so that one more reading weighs one more reading.
      def weighed(count)
        return @scans.logs, @scans.alternatives if count.zero?

        @model.cached(weighed_key(count)) do
          logs, alternatives = before(count)
          weigh(observations[count - 1], logs.map(&:dup), alternatives.dup)
        end
      end

      # The same of all but the last, where that is kept; otherwise one after the other, none kept.
      def before(count)
        return weighed(count - 1) if count == 1 || @model.cached?(weighed_key(count - 1))

        observations
          .first(count - 1)
          .reduce([@scans.logs.map(&:dup), @scans.alternatives.dup]) { |sums, each| weigh(each, *sums) }
      end

      def weighed_key(count)
        [:weighed, @scans.object_id, *observations.first(count).map(&:weighed_by)]
      end

      # density = (1 - gross error) x model + gross error x anything: one wrong probe cannot acquit the guilty. Adds to
      # logs and alternatives, and returns them.
      def weigh(observation, logs, alternatives)
        densities =
          @model.table(observation.test).densities(observation.result, presences, provoked: observation.provoked?)
        error = @catalogue.model("gross_error")
        slack = error * GrossError.density(observation)
        sound = Math.log(((1 - error) * densities.sound) + slack)
        alternatives[UNPOWERED] += Math.log(((1 - error) * densities.unpowered) + slack) - sound
        densities.by_presence.each_with_index { |by_atom, d| add_densities(logs[d], by_atom, 1 - error, slack, sound) }
        [logs, alternatives]
      end

      # Atoms that show the same share a density, so its logarithm is taken once.
      def add_densities(row, by_atom, modelled, slack, sound)
        known = {}
        by_atom.each_with_index do |density, i|
          row[i] += known[density] ||= Math.log((modelled * density) + slack) - sound
        end
      end
    end
  end
end
