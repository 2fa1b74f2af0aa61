# frozen_string_literal: true

module Gadwall
  module Observations
    # Something said or noticed that shifts what is likely; id of data/codes/symptoms.
    Symptom = Struct.new(:seq, :id, keyword_init: true)
  end
end
