# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # What a test costs a hand in minutes, and what its bits are worth for them.
    class Effort
      # What lies open now: keys as Observations::Access has them.
      attr_reader :opened

      # catalogue: Knowledge::Catalogue; opened: keys of what lies open.
      def initialize(catalogue, opened)
        @opened = opened
        @reach = Hash.new { |all, circuit_id| all[circuit_id] = {}.compare_by_identity }
        @reclose_minutes = catalogue.access["drive"]["reclose_minutes"]
        @bits_power = catalogue.model("bits_power")
        @handling_minutes = catalogue.model("handling_minutes")
        @handling_minutes_seen = catalogue.model("handling_minutes_seen")
        @invasive_minutes = catalogue.model("invasive_minutes")
      end

      # Minutes of a test of a circuit with this open: reaching places is paid once.
      def minutes(circuit, test, opened = @opened)
        reached, closed = @reach[circuit.id][test] ||= reach(circuit, test)
        sum = test.minutes
        reached.each { |key, minutes| sum += minutes unless opened.include?(key) }
        closed.any? { |key| opened.include?(key) } ? sum + @reclose_minutes : sum
      end

      # A test of so many minutes with what handling and piercing cost on top: minutes.
      def of(test, minutes)
        minutes + (test.numeric? ? @handling_minutes : @handling_minutes_seen) + (test.invasive * @invasive_minutes)
      end

      # What a test is ranked by: bits to a power above 1, as few telling tests beat many small ones, over the effort.
      def worth(bits, test, minutes)
        worth_of(bits, of(test, minutes))
      end

      # The same for an effort in minutes.
      def worth_of(bits, effort)
        (bits**@bits_power) / effort
      end

      private

      # [[key, minutes] of what it opens, keys of what it closes], as Observations::Access has them.
      def reach(circuit, test)
        key = ->(name) { Observations::Access.key_for(circuit.id, name) }
        [test.access.map { |name, minutes| [key.call(name), minutes] }, test.closes.map(&key)]
      end
    end
  end
end
