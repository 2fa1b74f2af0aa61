# frozen_string_literal: true

module Gadwall
  module Tests
    # One test on one harness, as tables: what it shows with the harness sound, with the module unpowered, and by atom.
    #
    # For choosing tests the outcomes are cut into regions. Atoms that show the same share a row: `rows` are the
    # distinct ones (row 0 is the sound harness), `row_of` names the row of each atom while it is there, `caught_row_of`
    # the row of an atom that comes and goes, for the looks that catch it. Both are Strings of one byte for each atom
    # (String#getbyte): there are many tables.
    class TestTable
      KEPT_RESULTS = 40 # of each test: for twenty jobs wired alike, two figures each
      KEPT_PAIRS = 64

      attr_reader :test, :rows, :row_of, :caught_row_of

      # model: CircuitModel; test: Test; looks: momentary looks that a minute of watching is worth; provoked_looks: that
      # one look is worth while the fault is provoked by water, warmth or movement.
      # kept: what `kept` gave of a table of the same harness and test, or nil to compute it.
      def initialize(model, test, looks, provoked_looks, kept = nil)
        @model = model
        @test = test
        @looks = looks
        @provoked_looks = provoked_looks
        kept ? take(kept) : predict(model.predictor)
        @densities = {}
      end

      # What was computed, without the harness and the test that it is of: plain values that can be put away.
      def kept
        [@sound, @unpowered, @scheme, @rows, @row_of, @caught_row_of, @present, @caught]
      end

      # Number of outcomes that are told apart.
      def outcome_count
        test.numeric? ? @scheme.count : @scheme.size
      end

      # Text of an outcome, as a technician would say it.
      def outcome_label(index)
        test.numeric? ? @scheme.label(index) : test.outcomes.values[index]
      end

      # result: Quantity::Reading or an outcome id. Returns the index of its region or outcome.
      def outcome_index(result)
        @scheme.index(result)
      end

      # Is this outcome what a sound circuit shows?
      def good?(index)
        test.numeric? ? @scheme.good?(index) : %w[good even].include?(@scheme[index])
      end

      # The chance that one doing of the test meets a fault of this presence.
      def meeting_chance(presence, provoked: false)
        presence = 1 - ((1 - presence)**@provoked_looks) if provoked
        return 1.0 if presence == 1.0 || test.behaviour.at_the_place?

        test.window? ? 1 - ((1 - presence)**@looks) : presence
      end

      # How it meets what comes and goes: two tests that meet it alike have the same meeting_chance.
      def meeting
        return "at_the_place" if test.behaviour.at_the_place?

        test.window? ? "window" : MOMENT
      end

      MOMENT = "moment" # what is there or away as one reads

      # How likely a result is: with the harness sound, with the module unpowered, and by atom, while the fault is there
      # (present), for one that comes and goes when it is met (caught), and while that is away (away).
      Densities = Struct.new(:sound, :unpowered, :present, :caught, :away)

      # result: Quantity::Reading or an outcome id. Returns Densities.
      def densities(result)
        @densities.shift if @densities.size > KEPT_RESULTS
        @densities[result] ||= begin
          present = wandered(@present.densities(result, &:itself)).freeze
          caught = @caught.equal?(@present) ? present : @caught.densities(result, &:itself).freeze
          sound = @sound.density(result)
          Densities.new(sound, @unpowered.density(result), present, caught, away(present, sound)).freeze
        end
      end

      # How likely a result is with the circuit sound.
      def normal_density(result)
        @sound.density(result)
      end

      # How likely a result is where it is least likely: with the circuit sound, or with some fault of it.
      def least_density(result)
        bin = outcome_index(result)
        rows.map { |row| row[bin] }.min
      end

      # How likely a result of what is seen is while a module of this bus says nothing for want of power, elsewhere.
      def silent_density(module_id, result)
        silent(module_id).density(result)
      end

      # Chances by outcome meanwhile.
      def silent_row(module_id)
        (@silent_rows ||= {})[module_id] ||= silent(module_id).bins(@scheme).freeze
      end

      # How likely a result is with two atoms there at once, both all the time.
      def pair_density(pair, result)
        @pairs ||= {}
        @pairs.shift if @pairs.size > KEPT_PAIRS
        (@pairs[pair] ||= both(*pair)).density(result)
      end

      # Does some severity of this fault make the test differ from sound by more than its scatter?
      def touches?(fault_index)
        @touches ||= touched_faults
        @touches.include?(fault_index)
      end

      # Places with a fault that it touches, in the order of the model's faults.
      def places
        @places ||= @model.faults.each_index.select { |k| touches?(k) }.map { |k| @model.faults[k].place }.uniq.freeze
      end

      private

      # A contact that is rotten is another one at each reading, now and then: its share of what all severities at its
      # place would show. Looks have none.
      def wandered(densities)
        return densities unless test.numeric?

        share = @model.wander
        @model.rotten.each do |atoms, weights|
          all = 0.0
          k = atoms.size
          all += weights[k] * densities[atoms[k]] while (k -= 1) >= 0
          atoms.each { |i| densities[i] = ((1 - share) * densities[i]) + (share * all) }
        end
        densities
      end

      # By atom, what is away leaves of itself. A look finds what there is to see anyway, and a watch what comes.
      def away(present, sound)
        meeting == MOMENT ? @model.while_away(present, sound) : Array.new(present.size, sound).freeze
      end

      def take(kept)
        @sound, @unpowered, @scheme, @rows, @row_of, @caught_row_of, @present, @caught = kept
      end

      # A meter hardly feels a transceiver without power.
      def silent(module_id)
        return @sound if test.numeric?

        (@silent ||= {})[module_id] ||= @model.predictor.predict(
          test,
          Circuits::Condition.new(observables: ["silent_#{module_id}"])
        )
      end

      # The harness with both conditions in it. Of a look, the worse sight of the two.
      def both(first, second)
        if test.behaviour.at_the_place?
          return [first, second].map { |atom| @present[atom] }.min_by { |prediction| prediction.density("good") }
        end

        predictor = @model.predictor
        both = with_both(predictor, @model.atoms[first], @model.atoms[second])
        return both unless test.numeric?

        beside = [[beside(first), second], [first, beside(second)]].reject { |pair| pair == [first, second] }
        others = beside.map { |pair| with_both(predictor, *@model.atoms.values_at(*pair)) }
        SeverityBlur.widen_by(both, others, predictor.scale(test))
      end

      # The atom of the same fault one step further in severity, or one step less; itself where it has no steps.
      def beside(atom)
        steps = @model.atoms_of([@model.fault_of[atom]])
        return atom unless @model.atoms[atom].severity.is_a?(Numeric) && steps.size > 1

        atom == steps.last ? steps[-2] : steps[steps.index(atom) + 1]
      end

      # What the test has put something sound in place of takes no part.
      def with_both(predictor, first, second)
        left = [first, second].select { |atom| predictor.takes_part?(test, atom.fault) }
        condition =
          left
            .map(&:condition)
            .reduce(Circuits::Condition::SOUND) do |sum, each|
              sum.equal?(Circuits::Condition::SOUND) ? each : sum + each
            end
        predictor.predict(test, condition, left.first&.fault)
      end

      def predict(predictor)
        @sound = predictor.predict(test, Circuits::Condition::SOUND)
        @unpowered = predictor.predict(test, @model.unpowered)
        present = present(predictor)
        caught = caught(predictor, present)
        scale = test.numeric? ? predictor.scale(test) : nil
        @scheme = test.numeric? ? Regions.new(@sound, scale) : test.outcomes.keys
        cut_into_rows(present, caught)
        @present = PredictionSet.new(present, scale)
        @caught = caught.equal?(present) ? @present : PredictionSet.new(caught, scale)
      end

      # By atom: what shows while it is there.
      def present(predictor)
        shown = @model.atoms.map { |atom| predictor.predict(test, atom.condition, atom.fault) }
        @model.atoms_by_fault.flat_map do |indices|
          own = indices.map { |i| shown[i] }
          graded = indices.all? { |i| @model.atoms[i].severity.is_a?(Numeric) }
          graded && own.uniq(&:object_id).size > 1 ? blurred(indices, own, predictor) : own
        end
      end

      # A figure is blurred among severities that change the same elements: where a fuse blows, nothing lies between.
      def blurred(indices, own, predictor)
        return SeverityBlur.mix(own) unless test.numeric?

        scale = predictor.scale(test)
        alike = indices.zip(own).chunk_while { |(i, _), (j, _)| changes(i) == changes(j) }
        alike.flat_map { |run| SeverityBlur.widen(run.map(&:last), scale) }
      end

      # Elements that an atom's condition changes.
      def changes(atom)
        @model.atoms[atom].condition.series.keys
      end

      # By atom: what shows when a fault that comes and goes is met. Momentary tests meet it as it is.
      def caught(predictor, present)
        return present unless test.window? || test.behaviour.moves_something?

        by_fault = @model.faults.map { |fault| predictor.caught(test, fault) || @sound }
        @model.atoms.map { |atom| by_fault[atom.fault_index] }
      end

      MOST_ROWS = 255 # more are never told apart by a test of some dozen outcomes

      def cut_into_rows(present, caught)
        @rows = [@sound.bins(@scheme)]
        seen = {}.compare_by_identity
        @row_of = rows_of(present, seen)
        @caught_row_of = caught.equal?(present) ? @row_of : rows_of(caught, seen)
      end

      def rows_of(predictions, seen)
        predictions.map { |prediction| row_index(prediction, seen) }.pack("C*").freeze
      end

      def row_index(prediction, seen)
        seen[prediction] ||= begin
          bins = prediction.bins(@scheme)
          rows.index { |row| alike?(row, bins) } || new_row(bins)
        end
      end

      def new_row(bins)
        return nearest(bins) if rows.size > MOST_ROWS

        (rows << bins.freeze).size - 1
      end

      def nearest(bins)
        rows.each_index.min_by { |k| rows[k].zip(bins).sum { |a, b| (a - b).abs } }
      end

      ALIKE = 2e-3 # no test tells distributions that differ by less

      def alike?(row, other)
        i = row.size
        while (i -= 1) >= 0
          difference = row[i] - other[i]
          return false if difference > ALIKE || difference < -ALIKE
        end
        true
      end

      def touched_faults
        far = rows.map { |row| far?(row) }
        @model
          .atoms
          .each_index
          .select { |i| far[row_of.getbyte(i)] || far[caught_row_of.getbyte(i)] }
          .to_set { |i| @model.atoms[i].fault_index }
      end

      # Total variation distance from the sound row of more than a half.
      def far?(row)
        row.zip(rows[0]).sum { |a, b| (a - b).abs } / 2.0 > 0.5
      end
    end
  end
end
