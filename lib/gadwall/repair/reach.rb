# frozen_string_literal: true

module Gadwall
  module Repair
    # Where a place usually is in this vehicle and what comes off to reach it (data/repairs/reach.yml).
    module Reach
      # circuit: Vehicle::System::Circuit; place: id of a place in it; system: Vehicle::System. A run of wire is told by
      # its two ends. Returns a text, or nil where nothing is usual.
      def self.to(circuit, place, system)
        spot = Work.spot(circuit.harness, place)
        return said(circuit, place, system) unless spot.respond_to?(:from) && spot.respond_to?(:to)

        ends = [spot.from, spot.to].to_h { |joint| [joint.name, said(circuit, joint.id, system)] }.compact
        ends.map { |name, text| "#{name}: #{text}" }.join(" ") unless ends.empty?
      end

      def self.said(circuit, place, system)
        rows =
          system.catalogue.reach.select do |each|
            fits?(each["at"], "#{circuit.family}/#{place}") && fits?(each["circuits"], circuit.id)
          end
        rows.flat_map { |each| each["where"] }.find { |way| system.sheet.fits?(way["vehicle"]) }&.fetch("text")
      end

      def self.fits?(patterns, name)
        patterns.nil? || patterns.any? { |pattern| File.fnmatch(pattern, name) }
      end
      private_class_method :said, :fits?
    end
  end
end
