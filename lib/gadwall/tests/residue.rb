# frozen_string_literal: true

module Gadwall
  module Tests
    # What a fault that comes and goes leaves of itself while it is away: a contact that opens when it is cold is still
    # a poor one when it is warm, a wet plug that has dried still leaks a little (common practice: measure the drop
    # under load though the lamp is out just now).
    module Residue
      SERIES = %w[series far_end_open].freeze
      LEAKS = %w[to_ground to_supply between across far_end_across].freeze
      private_constant :SERIES, :LEAKS

      # atoms: Array of CircuitLayout::Atom. The block says how often each of some atoms is there, as shares that sum to
      # 1, by their indices. Returns, by atom, [indices, shares] of the less bad ones at its spot, or nil.
      def self.by_atom(atoms)
        found = Array.new(atoms.size)
        spots(atoms).each_value do |same|
          same = same.sort_by { |i| badness(atoms[i]) }
          same.each do |i|
            less = same.take_while { |j| badness(atoms[j]) < badness(atoms[i]) }
            found[i] = [less, yield(less)].freeze unless less.empty?
          end
        end
        found.freeze
      end

      # Atoms by where they are and whether they are in the way of the current or beside it.
      def self.spots(atoms)
        graded = atoms.each_index.select { |i| atoms[i].severity.is_a?(Numeric) && effect(atoms[i]) }
        graded.group_by do |i|
          fault = atoms[i].fault
          [fault.place, fault.target, effect(atoms[i])]
        end
      end

      # What it does to the current; nil for what is no matter of ohms.
      def self.effect(atom)
        kind = atom.fault.effect
        SERIES.include?(kind) ? "series" : (kind if LEAKS.include?(kind))
      end

      # More ohms in the way are worse, fewer beside it.
      def self.badness(atom)
        SERIES.include?(atom.fault.effect) ? atom.severity : -atom.severity
      end
      private_class_method :spots, :effect, :badness
    end
  end
end
