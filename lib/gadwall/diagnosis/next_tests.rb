# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Which test tells the most for its minutes.
    #
    # What a test tells is the mutual information between its outcome and the place to be mended (Shannon; from memory):
    # two faults that the same repair cures need not be told apart. Suspects outside the test's circuit all see the same
    # sound line, so they count as one.
    class NextTests
      Option =
        Struct.new(:circuit, :test, :minutes, :bits, :outcomes, :needed, keyword_init: true) do
          # "front_left.resistance.sensor_plug".
          def id
            "#{circuit.id}.#{test.id}"
          end

          # What it is ranked by.
          def bits_per_minute
            bits / minutes
          end
        end
      # chance: of this outcome; places: {place => probability} after it.
      Outcome = Struct.new(:index, :label, :good, :chance, :places, keyword_init: true)

      LEAST_PROBABILITY = 0.01 # a circuit with less than this is not worth a test yet
      SHOWN_PLACES = 4
      WEIGHED = 8 # options weighed again by all that is believed
      RANKED = 20 # options that are sought; further ones may be left out
      DETAILED = 6 # options whose outcomes are worked out for showing

      def initialize(posterior, body)
        @posterior = posterior
        @catalogue = posterior.system.catalogue
        @bits_power = @catalogue.model("bits_power")
        @handling_minutes = @catalogue.model("handling_minutes")
        @handling_minutes_seen = @catalogue.model("handling_minutes_seen")
        @invasive_minutes = @catalogue.model("invasive_minutes")
        @body = body
        @bits = { true => {}, false => {} }
        @right = Evidence::Changes.right_now(body.observations)
        counting = body.observations.select { |each| still_counts?(each) }
        @done = counting.map { |observation| [observation.circuit.id, observation.test.id] }.tally
      end

      # Options, most telling for their effort first: bits (to a power above 1, as few telling tests beat many small
      # ones) over minutes, with what handling and piercing cost on top. Ties to the cheaper, then by name.
      # needed: ids of tests that a verdict waits for; they come first. again: ids of tests whose reading is in doubt:
      # no other test is named again, since the same eyes see the same.
      #
      # All are ranked by the strong beliefs; the foremost are weighed again by all that is believed.
      def ranked(needed: [], again: [])
        @again = again
        options = worth_asking(needed).sort_by { |option| order(option) }
        foremost = options.first(WEIGHED).map { |option| weighed(option) }.sort_by { |option| order(option) }
        foremost.each_with_index.map { |option, i| i < DETAILED ? detailed(option) : option } + options.drop(WEIGHED)
      end

      # One test as an Option with its outcomes, whatever its rank.
      def option(circuit, test)
        detailed(
          Option.new(
            circuit: circuit,
            test: test,
            minutes: minutes(circuit, test),
            bits: bits(circuit, test),
            outcomes: [],
            needed: false
          )
        )
      end

      # Minutes of a test from where the vehicle stands now: reaching places is paid once.
      def minutes(circuit, test)
        reach =
          test.access.sum do |key, minutes|
            @body.open_access.include?(Evidence::Access.key_for(circuit.id, key)) ? 0 : minutes
          end
        closing =
          if test.closes.any? { |key| @body.open_access.include?(Evidence::Access.key_for(circuit.id, key)) }
            @catalogue.access["drive"]["reclose_minutes"]
          else
            0
          end
        test.minutes + reach + closing
      end

      # What a test of this vehicle shows: Testing::TestTable.
      def table(circuit, test)
        @posterior.table(circuit, test)
      end

      # What the test would tell, in bits; strong: by the strong beliefs alone.
      def bits(circuit, test, strong: false)
        (@bits[strong][circuit.id] ||= {})[test.id] ||= begin
          joint, rest = joint_table(circuit, test, strong: strong, merged: true)
          Information.mutual(joint.values << rest)
        end
      end

      # What a test is ranked by: what it tells for its effort. strong: by the strong beliefs alone.
      def worth_of(circuit, test, strong: false)
        for_effort(bits(circuit, test, strong: strong), test, minutes(circuit, test))
      end

      # The foremost test of some circuits, as an Option with its outcomes; nil where none of them is worth a test yet.
      # circuits: Array of Vehicle::System::Circuit.
      def best_of(circuits)
        best = circuits.flat_map { |circuit| options_for(circuit, []) }.min_by { |option| order(option) }
        best && detailed(best)
      end

      private

      # A reading taken before a change put something right may be taken again after it.
      def still_counts?(observation)
        test = observation.test
        return true if test.record["changes"] || test.behaviour.at_the_place?

        observation.changed_before == @right[observation.circuit.id]
      end

      # Circuits in the order of what a test of theirs can tell at most, until RANKED options are better than that: no
      # test tells more than there is to know of its circuit (I(X;Y) <= H(X); Cover and Thomas 2.6, from memory).
      def worth_asking(needed)
        bounded = @posterior.system.circuits.map { |circuit| [circuit, most_per_effort(circuit)] }
        found = []
        bounded
          .sort_by { |circuit, most| [-most, circuit.id] }
          .each do |circuit, most|
            asked = needed.any? { |id| id.start_with?("#{circuit.id}.") }
            next if !asked && beaten?(most, found)

            found.concat(options_for(circuit, needed))
          end
        found
      end

      # Are RANKED options found already that are worth more?
      def beaten?(most, found)
        found.size >= RANKED && found.map { |option| worth(option) }.max(RANKED).last > most
      end

      # The most that a test of the circuit can be worth.
      def most_per_effort(circuit)
        probability = @posterior.circuit_probability(circuit)
        return 0.0 if probability < LEAST_PROBABILITY

        strong = @posterior.beliefs(circuit, strong: true).shares
        least = circuit.model.least_effort { |test| effort(test, test.minutes) }
        ([Information.entropy(strong), 0.0].max**@bits_power) / least
      end

      def worth(option)
        for_effort(option.bits, option.test, option.minutes)
      end

      def for_effort(bits, test, minutes)
        (bits**@bits_power) / effort(test, minutes)
      end

      def effort(test, minutes)
        minutes + (test.numeric? ? @handling_minutes : @handling_minutes_seen) + (test.invasive * @invasive_minutes)
      end

      def order(option)
        [option.needed ? 0 : 1, -worth(option).round(6), effort(option.test, option.minutes), option.id]
      end

      def weighed(option)
        bits = bits(option.circuit, option.test) * repeat_factor(option.circuit, option.test)
        option.dup.tap { |copy| copy.bits = bits }
      end

      def options_for(circuit, needed)
        probability = @posterior.circuit_probability(circuit)
        Thread.pass # others may go on
        circuit.model.tests.values.filter_map do |test|
          id = "#{circuit.id}.#{test.id}"
          asked = needed.include?(id) && (@done[[circuit.id, test.id]] || 0) < 2
          next if (probability < LEAST_PROBABILITY || idle?(circuit, test, id)) && !asked

          bits = bits(circuit, test, strong: true) * repeat_factor(circuit, test)
          if bits > 1e-4 || asked
            Option.new(
              circuit: circuit,
              test: test,
              minutes: minutes(circuit, test),
              bits: bits,
              outcomes: [],
              needed: asked
            )
          end
        end
      end

      # Too dear to be asked for; or done already, and nobody doubts the result.
      def idle?(circuit, test, id)
        times = @done[[circuit.id, test.id]] || 0
        test.record["advised"] == false || times > 1 || (times == 1 && !(@again || []).include?(id))
      end

      # The same look again with the same eyes tells less than the model, which takes each for a fresh one, believes.
      def repeat_factor(circuit, test)
        0.5**(@done[[circuit.id, test.id]] || 0)
      end

      # {place => chances by outcome} for the circuit's own suspects, and the row of everything else. merged:
      # one thing that several circuits share is one place, wherever it shows.
      def joint_table(circuit, test, strong: false, merged: false)
        table = @posterior.table(circuit, test)
        sound = table.rows[0]
        beliefs = @posterior.beliefs(circuit, strong: strong)
        joint =
          beliefs
            .columns(table, merged: merged)
            .to_h { |place, columns| [place, after_change(circuit, place, outcomes_of(table, columns), sound)] }
        outside = 1 - beliefs.total
        outside -= add_beside(circuit, joint, sound, outside) if merged
        [joint, sound.map { |chance| chance * outside }]
      end

      # What a change has put right shows what is sound, mostly.
      def after_change(circuit, place, outcomes, sound)
        right = @right[circuit.id]
        return outcomes if right.empty? || right.none? { |each| place == "#{circuit.id}/#{each}" }

        all = outcomes.sum
        stays = EpisodeWeights::STAYS_RIGHT
        outcomes.each_with_index.map { |chance, bin| (stays * all * sound[bin]) + ((1 - stays) * chance) }
      end

      # Adds what is wrong with the circuit's bodies and does not show in it. Returns how much that is.
      def add_beside(circuit, joint, sound, most)
        beside = @posterior.bodies.beside(circuit).select { |body, _| joint.key?(body) }
        scale = [most / beside.values.sum, 1.0].min if beside.any?
        beside.sum do |body, chance|
          joint[body] = joint[body].each_with_index.map { |p, bin| p + (sound[bin] * chance * scale) }
          chance * scale
        end
      end

      # Chances by outcome of what is believed of one place: first by distinct row of the table, then mixed.
      def outcomes_of(table, columns)
        by_row = Array.new(table.rows.size, 0.0)
        by_row[0] = columns.unmet
        add(by_row, table.row_of, columns.always_atoms, columns.always)
        add(by_row, table.caught_row_of, columns.met_atoms, columns.met)
        mix(table.rows, by_row)
      end

      # Bare loops: they run for every belief and every test.
      def add(by_row, row_of, atoms, chances)
        n = atoms.size
        by_row[row_of.getbyte(atoms[n])] += chances[n] while (n -= 1) >= 0
      end

      def mix(rows, by_row)
        sums = Array.new(rows[0].size, 0.0)
        k = by_row.size
        while (k -= 1) >= 0
          p = by_row[k]
          next if p == 0.0

          row = rows[k]
          bin = row.size
          sums[bin] += p * row[bin] while (bin -= 1) >= 0
        end
        sums
      end

      def detailed(option)
        joint, rest = joint_table(option.circuit, option.test)
        table = @posterior.table(option.circuit, option.test)
        outcomes =
          (0...table.outcome_count).filter_map do |bin|
            chance = joint.values.sum { |row| row[bin] } + rest[bin]
            outcome(option.circuit, table, bin, chance, joint, rest) if chance > 0.005
          end
        option.dup.tap { |copy| copy.outcomes = outcomes.sort_by { |each| -each.chance }.freeze }.freeze
      end

      def outcome(circuit, table, bin, chance, joint, rest)
        inside = joint.map { |place, row| [place, row[bin] / chance] }
        outside = elsewhere(circuit, chance, rest[bin])
        Outcome.new(
          index: bin,
          label: table.outcome_label(bin),
          good: table.good?(bin),
          chance: chance,
          places: (inside + outside).sort_by { |_, p| -p }.first(SHOWN_PLACES).to_h
        )
      end

      # The strongest places outside a circuit after an outcome of this chance, of which `sound` falls to the sound
      # circuit. No test of the circuit changes another one, but for the faults that would make it unnecessary.
      def elsewhere(circuit, chance, sound)
        outside = 1 - @posterior.beliefs(circuit).total
        both = @posterior.fault_beside(circuit)
        clean = outside.positive? ? sound / outside : 0.0
        faulty = outside < 1 ? (chance - sound) / (1 - outside) : 0.0
        others(circuit).map { |place, p| [place, p * (((1 - both) * clean) + (both * faulty)) / chance] }
      end

      def others(circuit)
        (@others ||= {})[circuit.id] ||= begin
          prefix = "#{circuit.id}/"
          inside = @posterior.places_of(circuit.id)
          @posterior
            .places
            .lazy
            .reject { |place, _| place.start_with?(prefix) || inside.key?(place) }
            .first(SHOWN_PLACES)
        end
      end
    end
  end
end
