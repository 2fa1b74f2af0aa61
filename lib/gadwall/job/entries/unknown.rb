# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # An entry of a kind or version that this program does not know, or that it cannot use any more: kept and shown.
      class Unknown < Entry
        include Withdrawable

        KIND = "unknown"
        VERSION = 1

        # Why a known kind could not be used, or nil.
        attr_reader :trouble

        def initialize(hash, trouble = nil)
          @trouble = trouble
          super(hash)
        end
      end
    end
  end
end
