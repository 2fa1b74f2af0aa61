# frozen_string_literal: true

module Gadwall
  # The bay to practise in: exercises on simulated vehicles, a stand with instruments, what was done and what it would
  # have taken. It never touches the record of the workshop.
  module Training
    # Bits that a reading told: how far it moved the suspected places, by the divergence of Kullback and Leibler (1951,
    # handbook, from memory). before, after: Diagnosis::Assessment. Returns a Float from 0 on.
    def self.told(before, after)
      was = before.posterior.places.to_h
      after
        .posterior
        .places
        .sum { |place, p| p > LEAST ? p * Math.log2(p / [was.fetch(place, 0.0), LEAST].max) : 0.0 }
        .clamp(0.0, MOST_BITS)
    end
    LEAST = 1e-6
    MOST_BITS = 20.0
  end
end
