# frozen_string_literal: true

require "gadwall"

module Gadwall
  # What the engine is examined by, beside the product and never loaded by it: vehicles by other hands, which share
  # nothing with circuits/ and tests/; simulated vehicles of our own circuits; the loops that trace them; the tables.
  module Evaluation
    # The Zeitwerk::Loader of evaluation/.
    LOADER =
      Zeitwerk::Loader.new.tap do |loader|
        loader.push_dir(__dir__, namespace: self)
        loader.ignore(__FILE__)
        loader.setup
      end
  end
end
