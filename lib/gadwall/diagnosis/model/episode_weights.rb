# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # What the readings of one episode say of a circuit's atoms, as logarithms against the sound circuit.
    #
    # A fault that is always there meets every reading: the product of what they say. One that comes and goes is there
    # during the whole episode with a chance d, or away:
    #   d x product p(reading | fault) + (1 - d) x product p(reading | away),
    # where what is away leaves nothing to measure, or something less bad of its kind (Tests::Residue).
    # d is its presence, but near 1 where the technician says that the fault is there, near 0 where it has gone.
    #
    # logs: by presence and atom; sound: logarithm of the readings with the circuit sound; unpowered: with its module
    # dead, against sound.
    class EpisodeWeights
      CHANGES = 0.2 # from memory: what comes and goes changes by itself between two readings

      attr_reader :logs, :sound, :unpowered

      # model: Tests::CircuitModel; episode: Readings::Episode; point: of the unknowns; presences: [1.0, ...].
      # Returns EpisodeWeights, kept with the model.
      def self.of(model, episode, point, presences)
        tests = episode.rows.map { |row| row.observation.test }
        shown = tests.flat_map { |test| model.unknowns_of(test) + model.felt_in(test) }.map(&:id).uniq
        at_points = model.cached([:episodes, key(episode)]) { {} }
        at_points[point.slice(*shown)] ||= new(model, episode, point, presences)
      end

      # All that an episode's weight depends on, within its circuit and point.
      def self.key(episode)
        [episode.presence, episode.alone, *episode.rows.map { |row| RowWeights.key(row) }].freeze
      end

      def initialize(model, episode, point, presences)
        @model = model
        @episode = episode
        @rows = episode.rows.map { |row| RowWeights.of(model, row, episode, point, presences) }
        @sound = @rows.sum(&:sound)
        @unpowered = @rows.sum(&:unpowered)
        @logs = (episode.alone ? @rows.first.logs : together(presences)).freeze
        @model = @episode = @rows = nil # kept longer than the job whose readings they were
        freeze
      end

      private

      # Of what comes and goes: there in the whole episode, or not; or it changes while nothing is moved (CHANGES).
      # While it is there, it is met alike however often that is.
      def together(presences)
        always = summed { |row| row.logs.first }
        met = summed { |row| row.logs.last }.map { |log| Math.exp(log) }
        away = @model.while_away(met, 1.0) # products against the sound circuit
        coming = presences.each_index.drop(1)
        [always] + coming.map { |d| mixed(met, away, RowWeights.chance(@episode.presence, presences[d]), apart(d)) }
      end

      # By atom: each reading for itself, at one presence; nil where there is one alone.
      def apart(presence_index)
        summed { |row| row.apart[presence_index] } if @rows.size > 1
      end

      # Logarithms of what is met with a chance, else away. Bare loop: it runs over every atom of a circuit.
      def mixed(met, away, chance, apart)
        logs = Array.new(met.size, 0.0)
        i = met.size
        while (i -= 1) >= 0
          product = (chance * met[i]) + ((1 - chance) * away[i])
          product = ((1 - CHANGES) * product) + (CHANGES * Math.exp(apart[i])) if apart
          logs[i] = Math.log(product)
        end
        logs.freeze
      end

      def summed(&)
        first, *others = @rows.map(&)
        Grid.summed(first, others)
      end
    end
  end
end
