# frozen_string_literal: true

module Gadwall
  module Repair
    # What the states of the vehicle say of the order of steps: a step that needs a state follows the one that begins it
    # and precedes the one that ends it. These are the causal links of partial-order planning (handbook: McAllester and
    # Rosenblitt 1991, from memory); a state that is begun or ended by several steps is left to the rules, and checked
    # by DryRun.
    class StateOrder
      # rules: StateRules; steps: {id => [words]}. Returns {id => [ids that it follows]}.
      def self.followers(rules, steps)
        new(rules, steps).followers
      end

      def initialize(rules, steps)
        @rules = rules
        @steps = steps
        @begin = Hash.new { |hash, key| hash[key] = [] }
        @end = Hash.new { |hash, key| hash[key] = [] }
        steps.each do |id, words|
          words.each do |word|
            rules.begun(word).map(&:first).each { |state| @begin[state] |= [id] }
            rules.ended(word).map(&:first).each { |state| @end[state.id] |= [id] }
          end
        end
      end

      # As above.
      def followers
        @follows = @steps.transform_values { [] }
        @steps.each do |id, words|
          words.each { |word| @rules.conditions_of(word).each { |condition| condition(id, condition) } }
        end
        @rules.states.each { |state| state.held.flatten.each { |held| nested(state.id, held) } }
        @follows
      end

      private

      def condition(id, condition)
        condition.during.each do |state|
          follow(id, beginner(state))
          follow(ender(state), id)
        end
        condition.after.each { |state| follow(id, ender(state)) }
        condition.before.each { |state| follow(beginner(state), id) }
      end

      # inner holds only while outer does.
      def nested(inner, outer)
        follow(beginner(inner), beginner(outer))
        follow(ender(outer), ender(inner))
      end

      def follow(later, earlier)
        @follows[later] |= [earlier] if later && earlier && later != earlier
      end

      def beginner(state)
        @begin[state].first if @begin[state].one? && @end[state].size <= 1
      end

      def ender(state)
        @end[state].first if @end[state].one? && @begin[state].size <= 1
      end
    end
  end
end
