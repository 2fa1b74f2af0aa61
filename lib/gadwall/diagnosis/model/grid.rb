# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # The readings of one circuit that show the same unknown values (Tests::Unknown), weighed at each point of those.
    # Readings that share no unknown are independent given the fault, so each Grid is mixed by itself.
    class Grid
      # What the readings say at one point. point: {id of an Unknown => number}; logs: by presence and atom, against the
      # sound circuit at this point; log_sound: of the readings with the circuit sound; unpowered: with its module dead,
      # against sound.
      At =
        Struct.new(:point, :logs, :log_sound, :unpowered) do
          # By presence and atom: the likelihood ratios themselves.
          def ratios
            @ratios ||=
              logs.map { |row| row.map { |log| Math.exp(log.abs < FAR ? log : log.clamp(-FAR, FAR)) }.freeze }.freeze
          end
        end
      FAR = 600.0 # logarithm beyond which an exponential no longer fits

      attr_reader :unknowns, :points

      # Those of a circuit's episodes: Array of Grid, first the one of the readings that show no unknown.
      def self.all(model, episodes, presences)
        shown =
          episodes.to_h { |each| [each, each.rows.flat_map { |row| model.unknowns_of(row.observation.test) }.uniq] }
        groups = [[[], episodes.select { |each| shown[each].empty? }]]
        (episodes - groups[0][1]).each { |each| join(groups, shown[each], each) }
        groups.map { |unknowns, rows| new(model, unknowns, rows, presences) }
      end

      # Puts an episode with the groups that share an unknown with it, which become one.
      def self.join(groups, unknowns, episode)
        mine = groups.select { |own, _| own.intersect?(unknowns) }
        mine.each { |group| groups.delete(group) }
        groups << [mine.flat_map(&:first) | unknowns, mine.flat_map(&:last) + [episode]]
      end
      private_class_method :join

      def initialize(model, unknowns, episodes, presences)
        @model = model
        @unknowns = unknowns
        @episodes = episodes
        @presences = presences
        @points = kept
      end

      # Does it show no unknown?
      def plain?
        unknowns.empty?
      end

      # By presence and atom: the logs of all points mixed. chances: of the points, summing to 1.
      def mixed(chances)
        return points[0].logs if points.size == 1

        shares = sound_shares(chances)
        @presences.each_index.map do |d|
          Information.mixed(points.map { |each| each.ratios[d] }, shares).map { |sum| Math.log([sum, 1e-300].max) }
        end
      end

      # Rows added up. Bare loops: they run over every atom of every circuit.
      def self.summed(first, rows)
        sum = first.dup
        rows.each do |row|
          i = sum.size
          sum[i] += row[i] while (i -= 1) >= 0
        end
        sum.freeze
      end

      # The same of the module dead.
      def mixed_unpowered(chances)
        shares = sound_shares(chances)
        Math.log([points.each_index.sum { |k| shares[k] * Math.exp(points[k].unpowered) }, 1e-300].max)
      end

      # How much likelier the readings are with the circuit sound at any point than at this one with its chance: natural
      # logarithm. What is weighed at one point alone, against the sound circuit there, is weighed against it at any
      # point when this is taken off. point: {id of an Unknown => number}.
      def sound_gap(chances, point)
        return 0.0 if points.size == 1

        logs = points.each_index.map { |k| Math.log([chances[k], 1e-300].max) + points[k].log_sound }
        here = points.index { |each| each.point.all? { |id, number| point[id] == number } }
        peak = logs.max
        peak + Math.log(logs.sum { |log| Math.exp(log - peak) }) - logs[here]
      end

      private

      # At all points; kept with the model, so that one more reading weighs one more episode.
      def kept
        return nothing_read if @episodes.empty?

        @model.cached([:grid, unknowns.map(&:id), @episodes.map { |each| EpisodeWeights.key(each) }]) do
          combinations.map { |point| at(point) }.freeze
        end
      end

      def nothing_read
        @model.cached([:nothing_read]) { [At.new({}.freeze, @presences.map { zeros }.freeze, 0.0, 0.0)].freeze }
      end

      def zeros
        @model.cached([:zeros]) { Array.new(@model.atoms.size, 0.0).freeze }
      end

      def combinations
        unknowns.reduce([{}]) do |points, unknown|
          points.flat_map { |point| unknown.points.each_index.map { |k| point.merge(unknown.id => k) } }
        end
      end

      def at(point)
        parts = @episodes.map { |episode| EpisodeWeights.of(@model, episode, point, @presences) }
        logs = @presences.each_index.map { |d| Grid.summed(zeros, parts.map { |part| part.logs[d] }) }
        At.new(point.freeze, logs.freeze, parts.sum(&:sound), parts.sum(&:unpowered))
      end

      # Each point's share of the sound circuit's likelihood.
      def sound_shares(chances)
        logs = points.each_index.map { |k| Math.log([chances[k], 1e-300].max) + points[k].log_sound }
        peak = logs.max
        shares = logs.map { |log| Math.exp(log - peak) }
        sum = shares.sum
        shares.map { |share| share / sum }
      end
    end
  end
end
