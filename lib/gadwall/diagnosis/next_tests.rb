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
          def id
            "#{circuit.id}.#{test.id}"
          end

          def bits_per_minute
            bits / minutes
          end
        end
      # chance: of this outcome; places: {place => probability} after it.
      Outcome = Struct.new(:index, :label, :good, :chance, :places, keyword_init: true)

      LEAST_PROBABILITY = 0.01 # a circuit with less than this is not worth a test yet
      SHOWN_PLACES = 4
      WEIGHED = 8 # options weighed again by all that is believed
      DETAILED = 6 # options whose outcomes are worked out for showing

      def initialize(posterior, body)
        @posterior = posterior
        @catalogue = posterior.system.catalogue
        @body = body
        @done = body.observations.map { |observation| [observation.circuit.id, observation.test.id] }.tally
      end

      # Options, most telling for their effort first: bits (to a power above 1, as few telling tests beat many small
      # ones) over minutes, with what handling and piercing cost on top. Ties to the cheaper, then by name.
      # needed: ids of tests that a verdict waits for; they come first.
      #
      # All are ranked by the strong beliefs; the foremost are weighed again by all that is believed.
      def ranked(needed: [])
        options =
          @posterior
            .system
            .circuits
            .flat_map { |circuit| options_for(circuit, needed) }
            .sort_by { |option| order(option, needed) }
        foremost = options.first(WEIGHED).map { |option| weighed(option) }.sort_by { |option| order(option, needed) }
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

      # What the test would tell, in bits; strong: by the strong beliefs alone.
      def bits(circuit, test, strong: false)
        (@bits ||= {})[[circuit.id, test.id, strong]] ||= begin
          joint, rest = joint_table(circuit, test, strong)
          Information.mutual(joint.values << rest)
        end
      end

      private

      def order(option, needed)
        effort =
          option.minutes + @catalogue.model("handling_minutes") +
            (option.test.invasive * @catalogue.model("invasive_minutes"))
        [
          option.needed ? needed.index(option.id) : needed.size,
          -((option.bits**@catalogue.model("bits_power")) / effort).round(6),
          effort,
          option.id
        ]
      end

      def weighed(option)
        bits = bits(option.circuit, option.test) * repeat_factor(option.circuit, option.test)
        option.dup.tap { |copy| copy.bits = bits }
      end

      def options_for(circuit, needed)
        probability = @posterior.circuit_probability(circuit)
        circuit.model.tests.values.filter_map do |test|
          id = "#{circuit.id}.#{test.id}"
          asked = needed.include?(id)
          next if probability < LEAST_PROBABILITY && !asked

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

      # The same look again with the same eyes tells less than the model, which takes each for a fresh one, believes.
      def repeat_factor(circuit, test)
        0.5**(@done[[circuit.id, test.id]] || 0)
      end

      # {place => chances by outcome} for the circuit's own suspects, and the row of everything else.
      def joint_table(circuit, test, strong = false)
        table = circuit.model.table(test)
        joint = shares(circuit, table, strong).transform_values { |by_row| mix(table, by_row) }
        outside = 1 - @posterior.believed(circuit, strong: strong)
        [joint, table.rows[0].map { |chance| chance * outside }]
      end

      # {place => probability by distinct row of the table}.
      def shares(circuit, table, strong)
        meeting = table.meeting_chances(@posterior.presences)
        @posterior.belief_columns(circuit, meeting, strong: strong).transform_values { |columns| share(table, columns) }
      end

      # Bare loops: they run for every belief and every test.
      def share(table, columns)
        share = Array.new(table.rows.size, 0.0)
        share[0] = columns.unmet
        add(share, table.row_of, columns.always_atoms, columns.always)
        add(share, table.caught_row_of, columns.met_atoms, columns.met)
        share
      end

      def add(share, rows, atoms, chances)
        n = 0
        while n < atoms.size
          share[rows[atoms[n]]] += chances[n]
          n += 1
        end
      end

      def mix(table, by_row)
        sums = Array.new(table.outcome_count, 0.0)
        by_row.each_with_index do |p, k|
          next unless p.positive?

          row = table.rows[k]
          bin = 0
          while bin < sums.size
            sums[bin] += p * row[bin]
            bin += 1
          end
        end
        sums
      end

      def detailed(option)
        joint, rest = joint_table(option.circuit, option.test)
        table = option.circuit.model.table(option.test)
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
        outside = 1 - @posterior.believed(circuit)
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
