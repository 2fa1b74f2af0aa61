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
      SAID_PRESENT = 0.97 # from memory: who says that the fault is there while he measures is seldom wrong
      SAID_ABSENT = 0.03 # from memory: and who says that it is gone
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

      # What a reading shows of an atom that a change before it has put right, or not. density, sound: of its result,
      # with the atom there and with the circuit sound.
      def self.after(observation, atom, density, sound)
        observation.changed&.include?(atom.fault.place) ? put_right(density, sound) : density
      end

      # The chance of a result where a change has put the fault right, mostly. density, sound: as above.
      def self.put_right(density, sound)
        (STAYS_RIGHT * sound) + ((1 - STAYS_RIGHT) * density)
      end

      # All that an episode's weight depends on, within its circuit and point.
      def self.key(episode)
        rows = episode.rows.map { |row| [*row.observation.weighed_by, row.error, row.warned] }
        [episode.presence, episode.alone, *rows].freeze
      end

      def initialize(model, episode, point, presences)
        @model = model
        @episode = episode
        @presences = presences
        @sound = 0.0
        @unpowered = 0.0
        @logs = presences.map { Array.new(model.atoms.size, 0.0) }
        @apart = @logs.map(&:dup) unless episode.alone || episode.rows.size < 2
        episode.rows.each do |row|
          table = row.table(model, point)
          row.observation.caught ? add_tries(row, table) : add(row, table)
        end
        together unless episode.alone
        @apart = nil
        @logs.each(&:freeze)
        freeze
      end

      private

      # density = (1 - error) x model + error x anything: one wrong probe cannot acquit the guilty.
      def add(row, table)
        densities = table.densities(row.observation.result)
        plain = mixed(densities.sound, row)
        sound = Math.log(plain)
        @sound += sound
        @unpowered += Math.log(mixed(densities.unpowered, row)) - sound
        @presences.each_with_index do |presence, d|
          shown = after_change(row, d.zero? ? densities.present : densities.caught, densities.sound)
          met = @episode.alone && d.positive? ? met(row, table, presence) : 1.0
          add_row(@logs[d], row, shown, densities.away, met, sound)
          add_row(@apart[d], row, shown, densities.away, chance_of(presence), sound) if @apart && d.positive?
        end
      end

      # One outcome seen so often in so many tries, another (as it should be) in the rest: how often a fault was caught
      # tells how often it is there. Each try is a look of its own; the ways to choose them are the same for all.
      def add_tries(row, table)
        seen, tries = row.observation.caught
        good = table.densities(table.test.outcomes.key?("good") ? "good" : "even")
        shown = table.densities(row.observation.result)
        log = ->(bad, fine) { (seen * Math.log(mixed(bad, row))) + ((tries - seen) * Math.log(mixed(fine, row))) }
        sound = log.call(shown.sound, good.sound)
        @sound += sound
        @unpowered += log.call(shown.unpowered, good.unpowered) - sound
        @presences.each_with_index do |presence, d|
          column = d.zero? ? :present : :caught
          each_try(@logs[d], shown[column], good[column]) do |bad, fine|
            log.call(*[[bad, shown.sound], [fine, good.sound]].map { |own, plain| met_now(own, plain, presence) }) -
              sound
          end
        end
      end

      def met_now(own, plain, presence)
        (presence * own) + ((1 - presence) * plain)
      end

      def each_try(row, bad, fine)
        known = {}
        row.each_index { |i| row[i] += known[[bad[i], fine[i]]] ||= yield(bad[i], fine[i]) }
      end

      STAYS_RIGHT = 0.9 # from memory: what a change put right is still right at the next reading

      # What was put right before a reading shows what is sound.
      def after_change(row, by_atom, sound)
        changed = row.observation.changed
        return by_atom if changed.nil? || changed.empty?

        by_atom.each_with_index.map { |density, i| self.class.after(row.observation, @model.atoms[i], density, sound) }
      end

      # Chance that this test meets a fault of that presence.
      def met(row, table, presence)
        said(table.meeting_chance(presence, provoked: row.observation.provoked?), table)
      end

      # The technician's word of this moment goes before the chance, but for what is looked at, which is there all the
      # time, and for what takes longer than a moment.
      def said(chance, table)
        return chance if table.test.behaviour.at_the_place? || table.test.behaviour.over_time?

        case @episode.presence
        when "present"
          [chance, SAID_PRESENT].max
        when "absent"
          [chance, SAID_ABSENT].min
        else
          chance
        end
      end

      # shown, away: how likely the result is by atom that is met or not; met: the chance that it is; sound: logarithm
      # of the result with the circuit sound. Atoms that show the same share a density, so its logarithm is taken once.
      def add_row(sums, row, shown, away, met, sound)
        known = {}
        shown.each_with_index do |density, i|
          mean = met == 1.0 ? density : (met * density) + ((1 - met) * away[i])
          sums[i] += known[mean] ||= Math.log(mixed(mean, row)) - sound
        end
      end

      # What a result is worth where one reading in so many goes wrong.
      def mixed(density, row)
        [((1 - row.error) * density) + row.slack, 1e-300].max
      end

      # Of what comes and goes: there in the whole episode, or not; or it changes while nothing is moved (CHANGES).
      def together
        @presences.each_with_index do |presence, d|
          next if d.zero?

          chance = chance_of(presence)
          apart = @apart && @apart[d]
          met = @logs[d].map { |log| Math.exp(log) }
          @logs[d] = met.each_with_index.map do |product, i|
            whole = (chance * product) + ((1 - chance) * away(met, i))
            Math.log(apart ? ((1 - CHANGES) * whole) + (CHANGES * Math.exp(apart[i])) : whole)
          end
        end
      end

      # The episode while an atom is away, against the sound circuit: it leaves nothing, or all the time the same less
      # bad one of its kind. met: products of the readings by atom, against sound.
      def away(met, atom)
        atoms, weights = @model.lesser[atom]
        return 1.0 unless atoms

        share = @model.residue
        (1 - share) + (share * atoms.each_with_index.sum { |i, k| weights[k] * met[i] })
      end

      # How surely what comes and goes is there during a reading of this episode.
      def chance_of(presence)
        { "present" => SAID_PRESENT, "absent" => SAID_ABSENT }.fetch(@episode.presence, presence)
      end
    end
  end
end
