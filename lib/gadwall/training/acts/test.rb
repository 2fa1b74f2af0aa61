# frozen_string_literal: true

module Gadwall
  module Training
    module Acts
      # A test done as its text says, with all that it opens; the way is paid for. test: full id.
      # As of Act.
      class Test < Act
        def perform
          at, test = system.test(given["test"])
          wheel = test.access.any? { |name, _| name == "wheel_off" }
          if wheel && !(stand.lifted? && stand.safe?(Stands::WORD))
            refuse("test", test.title, "a vehicle on stands", "Chock, lift and put stands under it first.")
          end
          past(at) || by_hand(at, test)
        end
      end
    end
  end
end
