# frozen_string_literal: true

module Gadwall
  # A list that is made when it is first read: most of what could be shown never is.
  class Later
    # The block gives the Array.
    def initialize(&block)
      @block = block
    end

    # The list, frozen.
    def to_a
      @to_a ||= @block.call.freeze
    end
  end
end
