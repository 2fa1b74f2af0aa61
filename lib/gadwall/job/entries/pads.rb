# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # Pads and discs as a gauge read them (Pads::Sheet), with the distance on the clock.
      class Pads < Entry
        include Withdrawable

        KIND = "pads"
        VERSION = 1

        # Gadwall::Pads::Sheet.
        def sheet
          Gadwall::Pads::Sheet.new(data["readings"])
        end

        # Kilometres at which the pads were new, or nil.
        def new_at
          data["new_at"]
        end

        private

        def check
          given = data["readings"]
          fault!("readings", given, "what a gauge read, by corner") unless given.is_a?(Hash)
          Gadwall::Pads::Sheet.new(given)
        end
      end
    end
  end
end
