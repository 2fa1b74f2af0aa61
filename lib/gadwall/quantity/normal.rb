# frozen_string_literal: true

module Gadwall
  module Quantity
    # A draw of the standard normal distribution (handbook: Box and Muller 1958, from memory).
    module Normal
      # random: Random. Returns a Float of mean 0 and sigma 1.
      def self.draw(random)
        Math.sqrt(-2 * Math.log(1 - random.rand)) * Math.cos(2 * Math::PI * random.rand)
      end
    end
  end
end
