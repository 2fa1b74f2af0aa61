# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Which test tells the most for its minutes.
    #
    # What a test tells is the mutual information between its outcome and the place to be mended (Shannon; from memory):
    # two faults that the same repair cures need not be told apart.
    class NextTests
      Option =
        Struct.new(:circuit, :test, :minutes, :bits, :outcomes, :needed, keyword_init: true) do
          # "front_left.resistance.sensor_plug".
          def id
            "#{circuit.id}.#{test.id}"
          end

          # What each result would make of the places: Array of Outcomes::Outcome, worked out when it is asked for.
          def outcomes
            self[:outcomes].to_a
          end

          # What it is ranked by.
          def bits_per_minute
            bits / minutes
          end
        end
      LEAST_PROBABILITY = 0.01 # a circuit with less than this is not worth a test yet
      WEIGHED = 8 # options weighed again by all that is believed
      RANKED = 20 # options that are sought; further ones may be left out

      # posterior: Posterior; body: Observations::Body; drive: may the vehicle be driven?
      def initialize(posterior, body, drive: true)
        @posterior = posterior
        @drive = drive
        @catalogue = posterior.system.catalogue
        @effort = Effort.new(@catalogue, body.open_access)
        @bits = { true => {}, false => {} }
        @forms = {}
        @fuses = BlownFuses.new(posterior.system, body.observations)
        @scanned = body.scans.any? { |scan| scan.modules.size > 1 }
        @coded = body.scans.flat_map(&:codes).select(&:set?).map(&:circuit_id).uniq
        @right = Observations::Changes.right_now(body.observations)
        @times = body.observations.map(&:test_id).tally
        @done = body.observations.select { |each| still_counts?(each) }.map(&:test_id).tally
      end

      # Options, most telling for their effort first: bits (to a power above 1, as few telling tests beat many small
      # ones) over minutes, with what handling and piercing cost on top. Ties to the cheaper, then by name.
      # needed: ids of tests that a verdict waits for; they come first. again: ids of tests whose reading is in doubt:
      # no other test is named again, since the same eyes see the same.
      #
      # All are ranked by the strong beliefs; the foremost are weighed again by all that is believed.
      def ranked(needed: [], again: [])
        @again = again
        options = worth_asking(needed)
        @others_tell = options.any? { |option| !option.test.last? && (option.needed || option.bits >= TELLS) }
        options = options.sort_by { |option| order(option) }
        foremost = options.first(WEIGHED).map { |option| weighed(option) }.sort_by { |option| order(option) }
        Foremost.of(foremost + options.drop(WEIGHED), self)
      end

      # One test as an Option, whatever its rank.
      def option(circuit, test)
        make_option(circuit, test, bits(circuit, test), false)
      end

      # Minutes of a test from where the vehicle stands now. opened: keys of what would lie open instead, as
      # Observations::Access has them.
      def minutes(circuit, test, opened = open_access)
        @effort.minutes(circuit, test, opened)
      end

      # What lies open now: keys as Observations::Access has them.
      def open_access
        @effort.opened
      end

      # What kind of test it is, where several tell the same: text.
      def form(test)
        @forms[test.id] ||= begin
          name = test.id[/\A[^.]+/]
          @catalogue.forms.fetch(name, name)
        end
      end

      # What options are ranked by, the least first, as `ranked` says. minutes: of the test, where it would take others
      # than from where the vehicle stands now.
      def order(option, minutes = option.minutes)
        worth = @effort.worth(option.bits, option.test, minutes)
        [rank(option), option.needed ? 0 : 1, -worth.round(6), @effort.of(option.test, minutes), option.id]
      end

      # What a test of this vehicle shows: Tests::TestTable.
      def table(circuit, test)
        @posterior.table(circuit, test)
      end

      # What the test would tell, in bits; strong: by the strong beliefs alone.
      def bits(circuit, test, strong: false)
        (@bits[strong][circuit.id] ||= {})[test.id] ||= JointTable.new(
          @posterior,
          circuit,
          test,
          right: @right[circuit.id],
          strong: strong
        ).bits
      end

      # What a test is ranked by: what it tells for its effort. strong: by the strong beliefs alone.
      def worth_of(circuit, test, strong: false)
        @effort.worth(bits(circuit, test, strong: strong), test, minutes(circuit, test))
      end

      # May it be asked for at all? Not what is too dear or forbidden, nor to clear codes where none stands.
      def advised?(circuit, test)
        return false if test.record["advised"] == false || forbidden?(circuit, test)
        return false unless test.offered?(circuit.harness.template)
        return false if test.record["told_by_scan"] && @scanned

        test.kind != "cleared" || coded?(circuit)
      end

      # Would it drive what must not be driven, or power what hangs behind a blown fuse?
      def forbidden?(circuit, test)
        (test.drives? && !@drive) || (test.powered? && @fuses.dead?(circuit))
      end

      # Does a code stand in the circuit?
      def coded?(circuit)
        @coded.include?(circuit.id)
      end

      # The foremost test of some circuits, as an Option; nil where none of them is worth a test yet.
      # circuits: Array of Vehicle::System::Circuit.
      def best_of(circuits)
        options = circuits.flat_map { |circuit| options_for(circuit, []) }
        @others_tell = options.any? { |option| !option.test.last? && option.bits >= TELLS }
        options.min_by { |option| order(option) }
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
        bar = 0.0
        bounded
          .sort_by { |circuit, most| [-most, circuit.id] }
          .each do |circuit, most|
            asked = needed.any? { |id| id.start_with?("#{circuit.id}.") }
            next if !asked && bar > most

            found.concat(options_for(circuit, needed))
            bar = least_ranked(found)
          end
        found
      end

      # What the last of the RANKED best options is worth, 0 while there are fewer.
      def least_ranked(found)
        found.size < RANKED ? 0.0 : found.map { |option| worth(option) }.max(RANKED).last
      end

      # The most that a test of the circuit can be worth.
      def most_per_effort(circuit)
        probability = @posterior.circuit_probability(circuit)
        return 0.0 if probability < LEAST_PROBABILITY

        strong = @posterior.beliefs(circuit, strong: true).shares
        least = circuit.model.least_effort { |test| @effort.of(test, test.minutes) }
        @effort.worth_of([Information.entropy(strong), 0.0].max, least)
      end

      def worth(option)
        @effort.worth(option.bits, option.test, option.minutes)
      end

      TELLS = 0.05 # bits of a test that comes before one that erases, calibrates or opens something; from memory

      # What erases, calibrates or opens something comes after all else, while something else would tell.
      def rank(option)
        option.test.last? && @others_tell ? 1 : 0
      end

      def weighed(option)
        bits = bits(option.circuit, option.test) * repeat_factor(option.id)
        option.dup.tap { |copy| copy.bits = bits }.freeze
      end

      def options_for(circuit, needed)
        probability = @posterior.circuit_probability(circuit)
        Thread.pass # others may go on
        circuit.model.tests.values.filter_map do |test|
          id = "#{circuit.id}.#{test.id}"
          asked = needed.include?(id) && !often?(id) && !forbidden?(circuit, test)
          next if (probability < LEAST_PROBABILITY || idle?(circuit, test, id)) && !asked

          bits = bits(circuit, test, strong: true) * repeat_factor(id)
          make_option(circuit, test, bits, asked) if bits > 1e-4 || asked
        end
      end

      def make_option(circuit, test, bits, needed)
        Option.new(
          circuit: circuit,
          test: test,
          minutes: minutes(circuit, test),
          bits: bits,
          outcomes: Later.new { Outcomes.of(@posterior, circuit, test, right: @right[circuit.id]) },
          needed: needed
        ).freeze
      end

      # Not to be asked for; or done already, and nobody doubts the result.
      def idle?(circuit, test, id)
        !advised?(circuit, test) || often?(id) || (@done.key?(id) && !(@again || []).include?(id))
      end

      OFTEN = 2 # no test is asked for a third time, whatever was changed meanwhile

      def often?(id)
        @times.fetch(id, 0) >= OFTEN
      end

      # The same look again with the same eyes tells less than the model, which takes each for a fresh one, believes.
      def repeat_factor(id)
        0.5**@done.fetch(id, 0)
      end
    end
  end
end
