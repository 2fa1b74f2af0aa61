# frozen_string_literal: true

module Gadwall
  module Observations
    # How surely a warning is there at this moment, whichever circuit lights it: who cleans a connector of a sound
    # circuit meanwhile sees the warning stay.
    module Warning
      THERE = 0.9 # from memory: a warning that was there when the vehicle came in is there when it is looked at again
      PERHAPS = 0.4 # from memory: where it comes and goes, or nobody said

      # 0..1. body: Body.
      def self.chance(body)
        lit = body.lamps.select(&:lit)
        return 0.0 if body.presence == "absent" || (body.lamps.any? && lit.empty?)
        return THERE if body.presence == "present" || lit.any? { |lamp| lamp.time != "now_and_then" }
        return PERHAPS if lit.any? || body.presence

        by_codes(body.scans.flat_map(&:codes).select(&:set?))
      end

      def self.by_codes(codes)
        return PERHAPS if codes.empty?

        codes.any? { |code| code.status == "current" } ? THERE : 0.0
      end
      private_class_method :by_codes
    end
  end
end
