# frozen_string_literal: true

module Gadwall
  # Trouble codes: words, failure types, status, and what they claim.
  module Codes
  end
end
