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
    #
    # Where a value of the vehicle is unknown (Testing::Unknown), all this is worked out at each of its points
    # (`points`), and mixed by their chances once those are known (`settle`, called once by Unknowns).
    class EvidenceWeights
      UNPOWERED = "unpowered"

      # What the readings say at one point. point: {id of an Unknown => number}; logs: by presence and atom, against the
      # sound circuit at this point; log_sound: of the readings with the circuit sound.
      At = Struct.new(:point, :logs, :alternatives, :log_sound)

      attr_reader :ratios, :sound, :log_sound, :alternatives, :observations, :episodes, :points

      # circuit: Vehicle::System::Circuit; body: Evidence::Body; presences: [1.0, ...]; catalogue: for the model's
      # numbers.
      def initialize(circuit, body, presences, catalogue)
        Thread.pass # others may go on: there are many circuits
        @model = circuit.model
        @catalogue = catalogue
        @presences = presences
        @scans = ScanWeights.of(circuit, body.scans, presences, catalogue)
        @observations = body.observations.select { |observation| observation.circuit.id == circuit.id }
        @episodes = Readings.episodes(@observations, catalogue)
        @dependent, @plain = @episodes.partition { |episode| dependent?(episode) }
        @points = grid.map { |point| weighed(point) }
      end

      # By atom: log ratios of the scans alone, for faults that are always there.
      def scan_logs
        @scans.logs[0]
      end

      # By atom: how surely it leaves the circuit's module without power; nil for a circuit that carries none.
      def unpowering
        @model.unpowering
      end

      # Unknowns that its readings can show.
      def shown_unknowns
        @shown_unknowns ||= observations.flat_map { |each| @model.unknowns_of(each.test) }.uniq
      end

      # Mixes the points by their chances. chances: in the order of `points`, summing to 1; point: the likeliest of all,
      # at which the readings are taken that only depend on an unknown.
      def settle(chances, point)
        single = points.size == 1
        @logs = single ? points[0].logs : mixed_rows(chances)
        @alternative_logs = single ? points[0].alternatives : mixed_alternatives(chances)
        add_dependent(point) if @dependent.any?
        scale
      end

      # The share that a likelihood ratio against the sound circuit has. log_ratio: its natural logarithm.
      def share(log_ratio)
        Math.exp(log_ratio - @peak)
      end

      # By presence and atom: natural logarithms of the likelihood ratios against the sound circuit.
      attr_reader :logs

      # What all but one of the readings say, at one point of the unknowns: logs by presence and atom.
      def logs_without(observation, point)
        rest = observations.reject { |each| each.equal?(observation) }
        summed(Readings.episodes(rest, @catalogue).map { |each| EpisodeWeights.of(@model, each, point, presences) })
      end

      private

      attr_reader :presences

      # Every combination of the unknowns' values: [{id => number}, ...]; one without any where none is shown.
      def grid
        shown_unknowns.reduce([{}]) do |points, unknown|
          points.flat_map { |point| unknown.points.each_index.map { |k| point.merge(unknown.id => k) } }
        end
      end

      def dependent?(episode)
        episode.alone && episode.rows.any? { |row| @model.felt_in(row.observation.test).any? }
      end

      def add_dependent(point)
        parts = @dependent.map { |episode| EpisodeWeights.of(@model, episode, point, presences) }
        @logs = summed(parts, @logs)
        @alternative_logs =
          @alternative_logs.merge(UNPOWERED => @alternative_logs[UNPOWERED] + parts.sum(&:unpowered))
      end

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

      # Each point's share of the sound circuit's likelihood.
      def sound_shares(chances)
        logs = points.each_index.map { |k| chances[k].positive? ? Math.log(chances[k]) + points[k].log_sound : -1e300 }
        peak = logs.max
        shares = logs.map { |log| Math.exp(log - peak) }
        sum = shares.sum
        shares.map { |share| share / sum }
      end

      def mixed_rows(chances)
        shares = sound_shares(chances)
        strong = points.each_index.select { |k| chances[k] > 0 }
        presences.each_index.map do |d|
          sums = Array.new(@model.atoms.size, 0.0)
          strong.each { |k| add_share(sums, points[k].logs[d], shares[k]) }
          sums.map { |sum| Math.log([sum, 1e-300].max) }
        end
      end

      def add_share(sums, row, share)
        return if share.zero?

        known = {}
        i = -1
        row.each { |log| sums[i += 1] += known[log] ||= share * Math.exp(log) }
      end

      def mixed_alternatives(chances)
        shares = sound_shares(chances)
        points[0].alternatives.keys.to_h do |name|
          sum = points.each_index.sum { |k| shares[k] * Math.exp(points[k].alternatives[name]) }
          [name, Math.log([sum, 1e-300].max)]
        end
      end

      # At one point. Kept with the model, so that one more reading weighs one more episode.
      def weighed(point)
        return At.new(point, @scans.logs, @scans.alternatives, 0.0).freeze if @plain.empty?

        @model.cached([:weighed, point, @scans.object_id, @plain.map { |each| EpisodeWeights.key(each) }]) do
          parts = @plain.map { |episode| EpisodeWeights.of(@model, episode, point, presences) }
          alternatives = @scans.alternatives.dup
          parts.each { |part| alternatives[UNPOWERED] += part.unpowered }
          At.new(point, summed(parts), alternatives, parts.sum(&:sound)).freeze
        end
      end

      # Bare loops: they run over every atom of every circuit.
      def summed(parts, logs = @scans.logs)
        presences.each_index.map do |d|
          row = logs[d].dup
          parts.each do |part|
            added = part.logs[d]
            i = row.size
            row[i] += added[i] while (i -= 1) >= 0
          end
          row.freeze
        end
      end
    end
  end
end
