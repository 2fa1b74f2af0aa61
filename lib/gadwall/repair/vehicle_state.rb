# frozen_string_literal: true

module Gadwall
  module Repair
    # In what state the vehicle is: the facts that keep it from being fit for the road, in the order in which they came
    # about. Frozen; `after` gives the next one.
    class VehicleState
      # What is wrong with a word done now: a state at a place that should hold (needed: true) or be over (false).
      # problem: a sentence.
      Problem = Struct.new(:word, :problem, :state, :place, :needed, keyword_init: true)

      attr_reader :facts

      # rules: StateRules; facts: [[state id, place or nil], ...].
      def initialize(rules, facts = [])
        @rules = rules
        @facts = facts.uniq.freeze
        freeze
      end

      # The state once words are done, in their order. words: Array of String. Returns a VehicleState.
      def after(words)
        return self if words.none? { |word| @rules.changes?(word) }

        VehicleState.new(@rules, words.reduce(facts) { |now, word| done(now, word) })
      end

      # What forbids a word now, and what would no longer hold: Array of Problem, [] where it may be done.
      def problems(word)
        @rules.conditions_of(word).flat_map { |condition| broken(condition, word) } + unheld(word)
      end

      # Words done one after the other, whatever forbids them: [Array of Problem, the VehicleState after them].
      def run(words)
        state = self
        found =
          words.flat_map do |word|
            problems = state.problems(word)
            state = state.after([word])
            problems
          end
        [found, state]
      end

      # The state as somebody found it: what a problem asked for is so. Returns a VehicleState.
      def found(problem)
        fact = [problem.state, problem.place]
        return VehicleState.new(@rules, facts | [fact]) if problem.needed

        VehicleState.new(
          @rules,
          facts.reject { |id, place| id == problem.state && StateRules.covers?(problem.place, place) }
        )
      end

      # Fit for the road?
      def fit?
        facts.empty?
      end

      # Does a state hold at a place? place: id or nil.
      def holds?(id, place = nil)
        facts.any? { |state, where| state == id && StateRules.covers?(where, place) }
      end

      # What stands on the vehicle, as the box 'as it stands now' says it, what came about last first: Array of String.
      def said
        told(facts.select { |id, place| @rules.state_of(id).says && !said_by_another?(id, place) }, :says).reverse
      end

      # What is still to be done, where nothing can be seen on the vehicle: Array of String.
      def owed
        told(facts.select { |id, _| @rules.state_of(id).owes }, :owes)
      end

      # Facts that hold without a state that they need: [[state id, place, id of the state that is missing], ...].
      def unheld_facts
        facts.flat_map do |id, place|
          missing = @rules.state_of(id).held.flatten.reject { |held| holds?(held, place_for(held, place)) }
          missing.map { |held| [id, place, held] }
        end
      end

      # A fact in words.
      def words(id, place)
        state = @rules.state_of(id)
        [state.says || state.owes, place&.tr("_", " ")].compact.join(", ")
      end

      private

      def said_by_another?(id, place)
        @rules.state_of(id).unsaid_while.any? { |other| holds?(other, place_for(other, place)) }
      end

      def done(now, word)
        ended = @rules.ended(word)
        left =
          now.reject do |id, place|
            ended.any? { |state, where| state.id == id && (where.nil? || StateRules.covers?(where, place)) }
          end
        left | @rules.begun(word)
      end

      def broken(condition, word)
        place = StateRules.place_of(word)
        missing = condition.during.reject { |id| holds?(id, place_for(id, place)) }
        over = (condition.after + condition.before + condition.without).uniq
        missing.map { |id| problem(word, id, place_for(id, place), true, "needs '#{words(id, nil)}' first") } +
          over.flat_map { |id| standing(word, id, place_for(id, place)) }
      end

      # Facts of a state that should be over.
      def standing(word, id, place)
        facts
          .select { |state, where| state == id && StateRules.covers?(where, place) }
          .map { |_, where| problem(word, id, where, false, "must not be done while '#{words(id, where)}'") }
      end

      # A state without places of its own holds everywhere.
      def place_for(id, place)
        @rules.state_of(id).places ? place : nil
      end

      # What a word would leave without the state that it needs: what it begins asks for that state first, what was
      # there before should be over.
      def unheld(word)
        return [] unless @rules.changes?(word)

        (after([word]).unheld_facts - unheld_facts).map do |id, place, held|
          fresh = !facts.include?([id, place])
          asked = fresh ? [held, place_for(held, place)] : [id, place]
          problem(word, *asked, fresh, "'#{words(id, place)}' holds only while '#{words(held, nil)}'")
        end
      end

      def problem(word, state, place, needed, sentence)
        Problem.new(word: word, state: state, place: place, needed: needed, problem: "#{word} #{sentence}")
      end

      def told(facts, field)
        facts
          .group_by(&:first)
          .map do |id, group|
            places = group.filter_map(&:last).map { |place| place.tr("_", " ") }
            [@rules.state_of(id)[field], places.join(" and ")].reject(&:empty?).join(", ")
          end
      end
    end
  end
end
