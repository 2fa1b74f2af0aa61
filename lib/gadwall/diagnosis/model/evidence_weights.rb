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
    # alternatives: "unpowered" (its module is dead), "upset" (its supply is low now or was; only where a code stands
    # that this can leave), on a bus "silent_abs" (that module says nothing) and "was_silent_abs" (it says nothing now
    # and then, and speaks at this moment).
    #
    # Where a value of the vehicle is unknown (Tests::Unknown), the readings are weighed at each of its points
    # (`grids`), and mixed by their chances once those are known (`settle`, called once by Unknowns).
    class EvidenceWeights
      UNPOWERED = "unpowered"
      UPSET = "upset"

      attr_reader :model, :ratios, :sound, :log_sound, :alternatives, :observations, :episodes, :grids

      # Name of the alternative in which a module falls silent now and then. id: of the module.
      def self.was_silent(id)
        "was_silent_#{id}"
      end

      # circuit: Vehicle::System::Circuit; body: Observations::Body; false_codes: FalseCodes; presences: [1.0, ...];
      # catalogue: for the model's numbers; on_bus: does its module hang on a bus of the vehicle?
      def initialize(circuit, body, false_codes, presences, catalogue, on_bus:)
        Thread.pass # others may go on: there are many circuits
        @model = circuit.model
        @catalogue = catalogue
        @presences = presences
        @scans = ScanWeights.of(circuit, body.scans, false_codes, presences, catalogue, on_bus: on_bus)
        @observations = body.observations.select { |observation| observation.circuit.id == circuit.id }
        @warned = body.warned
        @episodes = Readings.episodes(@observations, catalogue, @warned)
        @dependent, plain = @episodes.partition { |episode| dependent?(episode) }
        @grids = Grid.all(@model, plain, presences)
      end

      # What the scans alone say of two atoms at once: natural logarithm.
      def scan_pair_log(first, second)
        @scans.pair_log(first, second)
      end

      # Ids of what the codes claim that stood in the circuit.
      def claims
        @scans.claims
      end

      # By atom: how surely it leaves the circuit's module without power; nil for a circuit that carries none.
      def unpowering
        @model.unpowering
      end

      # Unknowns that its readings show.
      def shown_unknowns
        grids.flat_map(&:unknowns)
      end

      # By presence and atom: what scans and all grids but one say. The block gives the chances of a grid's points.
      def logs_beside(grid)
        others = (grids - [grid]).map { |each| each.mixed(yield(each)) }
        presences.each_index.map { |d| Grid.summed(@scans.logs[d], others.map { |rows| rows[d] }) }
      end

      # Mixes the grids by the chances of their points. chances: {grid => [chance, ...]}; point: the likeliest value of
      # all unknowns, at which the readings are taken that depend on one without showing it.
      def settle(chances, point)
        felt = @dependent.empty? ? nil : point
        key = [:settled, weighed_by, grids.map { |grid| chances[grid] }, felt]
        @logs, @alternative_logs, @ratios, @peak = @model.cached(key) { settled(chances, point) }
        @sound_gap = grids.sum { |grid| grid.sound_gap(chances[grid], point) }
        @log_sound = -@peak
        @sound = share(0.0)
        @alternatives = @alternative_logs.transform_values { |log| share(log) }
      end

      # All that its weight depends on, within its model and but for the unknowns; by identity where it is kept with the
      # model.
      def weighed_by
        @weighed_by ||= [
          @scans.object_id,
          grids.map { |grid| grid.points.object_id },
          @dependent.map { |episode| EpisodeWeights.key(episode) }
        ].freeze
      end

      # As Grid#sound_gap, of all its grids: for what is weighed at the likeliest point alone.
      attr_reader :sound_gap

      # The share that a likelihood ratio against the sound circuit has. log_ratio: its natural logarithm.
      def share(log_ratio)
        Math.exp(log_ratio - @peak)
      end

      # By presence and atom: natural logarithms of the likelihood ratios against the sound circuit.
      attr_reader :logs

      # What all but one of the readings say, at one point of the unknowns: logs by presence and atom. Nobody asks for
      # an episode without one of its readings again once there is one reading more, so that is not kept.
      def logs_without(observation, point)
        rest = Readings.episodes(observations.reject { |each| each.equal?(observation) }, @catalogue, @warned)
        parts =
          rest.map do |episode|
            next EpisodeWeights.of(@model, episode, point, presences) if kept?(episode)

            EpisodeWeights.new(@model, episode, point, presences)
          end
        mixed_logs(parts.map(&:logs))
      end

      private

      attr_reader :presences

      # Is it one of its own, with all its readings?
      def kept?(episode)
        @episode_keys ||= episodes.to_set { |each| EpisodeWeights.key(each) }
        @episode_keys.include?(EpisodeWeights.key(episode))
      end

      def mixed_logs(parts)
        presences.each_index.map { |d| Grid.summed(@scans.logs[d], parts.map { |rows| rows[d] }) }
      end

      def dependent?(episode)
        episode.alone && episode.rows.any? { |row| @model.felt_in(row.observation.test).any? }
      end

      # [logs, alternatives, ratios as shares of the strongest explanation, its logarithm].
      def settled(chances, point)
        alternatives = @scans.alternatives.dup
        parts = @dependent.map { |episode| EpisodeWeights.of(@model, episode, point, presences) }
        model.harness.modules.map(&:first).each { |id| alternatives["silent_#{id}"] += seen_while_silent(id) }
        alternatives[UNPOWERED] += grids.sum { |grid| grid.mixed_unpowered(chances[grid]) } + parts.sum(&:unpowered)
        logs = mixed_logs(grids.map { |grid| grid.mixed(chances[grid]) } + parts.map(&:logs)).freeze
        @peak = [0.0, *logs.map { |row| row.max || 0.0 }, *alternatives.values].max
        [logs, alternatives.freeze, logs.map { |row| shares(row).freeze }.freeze, @peak].freeze
      end

      # What was seen says of a module that has no power elsewhere, against the sound bus: natural logarithm.
      def seen_while_silent(module_id)
        seen = episodes.flat_map(&:rows).reject { |row| row.observation.test.numeric? || row.observation.caught }
        seen.sum do |row|
          table = row.table(model)
          result = row.observation.result
          row.log_ratio(table.silent_density(module_id, result), table.normal_density(result))
        end
      end

      # Atoms that show the same share a logarithm, so its exponential is taken once.
      def shares(row)
        known = {}
        row.map { |log| known[log] ||= share(log) }
      end
    end
  end
end
