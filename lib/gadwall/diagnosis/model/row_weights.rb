# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # What one reading says of a circuit's atoms, as logarithms against the sound circuit, within its episode
    # (EpisodeWeights). Kept with the model, so that one more reading weighs one more reading.
    #
    # logs: by presence and atom, with the fault met (in an episode of its own: with the chance that it is); apart: the
    # same with the chance that it is there at this one moment, nil where it is read alone; sound: logarithm of the
    # result with the circuit sound; unpowered: with its module dead, against sound.
    class RowWeights
      SAID_PRESENT = 0.97 # from memory: who says that the fault is there while he measures is seldom wrong
      SAID_ABSENT = 0.03 # from memory: and who says that it is gone
      STAYS_RIGHT = 0.9 # from memory: what a change put right is still right at the next reading

      attr_reader :logs, :apart, :sound, :unpowered

      # model: Tests::CircuitModel; row: Readings::Row; episode: its Readings::Episode; point: of the unknowns;
      # presences: [1.0, ...]. Returns RowWeights, kept with the model.
      def self.of(model, row, episode, point, presences)
        test = row.observation.test
        shown = (model.unknowns_of(test) + model.felt_in(test)).map(&:id)
        at_points = model.cached([:rows, *key(row), episode.presence, episode.alone, episode.rows.size > 1]) { {} }
        at_points[point.slice(*shown)] ||= new(model, row, episode, point, presences)
      end

      # All that its weight depends on, within its circuit, point and episode.
      def self.key(row)
        [*row.observation.weighed_by, row.error, row.warned]
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

      # How surely what comes and goes is there at a moment. said: what the technician says of it, or nil; presence: how
      # often it is there.
      def self.chance(said, presence)
        { "present" => SAID_PRESENT, "absent" => SAID_ABSENT }.fetch(said, presence)
      end

      def initialize(model, row, episode, point, presences)
        @model = model
        @row = row
        @episode = episode
        @presences = presences
        @table = row.table(model, point)
        @slack = row.slack
        row.observation.caught ? add_tries : add
        @logs.each(&:freeze)
        @model = @row = @episode = @presences = @table = nil # kept longer than the job whose reading it was
        freeze
      end

      private

      # density = (1 - error) x model + error x anything: one wrong probe cannot acquit the guilty.
      def add
        densities = @table.densities(@row.observation.result)
        @sound = log(densities.sound)
        @unpowered = log(densities.unpowered) - @sound
        present, caught = %i[present caught].map { |kind| after_change(densities[kind], densities.sound) }
        @logs = [against_sound(present)]
        @logs += @episode.alone ? by_chance(caught, densities.away) { |presence| met(presence) } : always(caught)
        return if @episode.alone || @episode.rows.size < 2

        @apart = [nil, *by_chance(caught, densities.away) { |each| self.class.chance(@episode.presence, each) }].freeze
      end

      # By presence below 1: what is met alike.
      def always(caught)
        shown = against_sound(caught)
        Array.new(@presences.size - 1, shown)
      end

      # By presence below 1: the result with the chance of the block that the atom is met, else away.
      def by_chance(caught, away)
        @presences
          .drop(1)
          .map do |presence|
            met = yield(presence)
            next against_sound(caught) if met == 1.0

            against_sound(caught.each_with_index.map { |density, i| (met * density) + ((1 - met) * away[i]) })
          end
      end

      # By atom, the logarithm of a density against sound. Atoms that show the same share a density, so its logarithm
      # is taken once.
      def against_sound(densities)
        known = {}
        densities.map { |density| known[density] ||= log(density) - @sound }.freeze
      end

      # One outcome seen so often in so many tries, another (as it should be) in the rest: how often a fault was caught
      # tells how often it is there. Each try is a look of its own; the ways to choose them are the same for all.
      def add_tries
        good = @table.densities(@table.test.outcomes.key?("good") ? "good" : "even")
        shown = @table.densities(@row.observation.result)
        @sound = tries(shown.sound, good.sound)
        @unpowered = tries(shown.unpowered, good.unpowered) - @sound
        @logs =
          @presences.each_with_index.map do |presence, d|
            column = d.zero? ? :present : :caught
            each_try(shown[column], good[column]) do |bad, fine|
              now = [[bad, shown.sound], [fine, good.sound]].map { |own, plain| met_now(own, plain, presence) }
              tries(*now) - @sound
            end
          end
      end

      # Logarithm of so many results with one density and the rest with another.
      def tries(bad, fine)
        seen, tries = @row.observation.caught
        (seen * log(bad)) + ((tries - seen) * log(fine))
      end

      def met_now(own, plain, presence)
        (presence * own) + ((1 - presence) * plain)
      end

      def each_try(bad, fine)
        known = {}
        bad.each_index.map { |i| known[[bad[i], fine[i]]] ||= yield(bad[i], fine[i]) }
      end

      # What was put right before a reading shows what is sound.
      def after_change(by_atom, sound)
        changed = @row.observation.changed
        return by_atom if changed.nil? || changed.empty?

        by_atom.each_with_index.map { |density, i| self.class.after(@row.observation, @model.atoms[i], density, sound) }
      end

      # Chance that this test meets a fault of that presence. The technician's word of this moment goes before the
      # chance, but for what is looked at, which is there all the time, and for what takes longer than a moment.
      def met(presence)
        chance = @table.meeting_chance(presence, provoked: @row.observation.provoked?)
        behaviour = @table.test.behaviour
        return chance if behaviour.at_the_place? || behaviour.over_time?

        case @episode.presence
        when "present"
          [chance, SAID_PRESENT].max
        when "absent"
          [chance, SAID_ABSENT].min
        else
          chance
        end
      end

      # Logarithm of what a result is worth where one reading in so many goes wrong.
      def log(density)
        Math.log([((1 - @row.error) * density) + @slack, 1e-300].max)
      end
    end
  end
end
