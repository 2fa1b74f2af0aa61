# frozen_string_literal: true

module Gadwall
  module Observations
    # What was changed on the vehicle stays changed: a cleaned connector, a bypassed run, a part on trial. Readings
    # taken after it are held to the vehicle as it is then.
    module Changes
      # observations: Array of Observation. Returns them in the order of the log, each with the places of its circuit
      # that were put right before it (changed), and the fault's absence where that was seen (presence).
      def self.told(observations)
        right = Hash.new { |known, id| known[id] = [] }
        in_order(observations).map do |each|
          known = right[each.circuit.id]
          told = known.empty? ? each : with(each, known)
          note(each, known)
          told
        end
      end

      # {circuit id => places that a change has put right by now}, of observations as `told` gives them; [] for others.
      def self.right_now(observations)
        right = Hash.new { |known, id| known[id] = [] }
        in_order(observations).each { |each| note(each, right[each.circuit.id]) }
        right
      end

      # Looks at a shared connector have one place in the log.
      def self.in_order(observations)
        observations.each_with_index.sort_by { |each, i| [each.seq, i] }.map(&:first)
      end

      def self.with(observation, places)
        observation.dup.tap do |copy|
          copy.changed = places.dup.freeze
          copy.presence ||= "absent"
          copy.freeze
        end
      end

      # What went with the change is put right; what came back is not. Where the warning was out before and after, it
      # stays as it is.
      def self.note(observation, known)
        place = observation.test.record["changes"]
        return if place.nil? || observation.result == "good"

        known.delete(place)
        known << place if observation.cures
      end
      private_class_method :with, :note, :in_order
    end
  end
end
