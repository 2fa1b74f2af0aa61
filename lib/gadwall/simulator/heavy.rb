# frozen_string_literal: true

module Gadwall
  module Simulator
    # The bus of a heavy vehicle (SAE J1939, from memory): who speaks on it, and of what.
    module Heavy
    end
  end
end
