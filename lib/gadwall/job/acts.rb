# frozen_string_literal: true

module Gadwall
  module Job
    # The verbs of the work, one class each (Act).
    module Acts
    end
  end
end
