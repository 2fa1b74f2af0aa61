# frozen_string_literal: true

module Gadwall
  module Observations
    # A warning lamp or message. id: of data/vehicle/lamps; lit: is it, or stays it out; time: of LAMP_TIMES, or nil.
    Lamp = Struct.new(:seq, :id, :lit, :time, keyword_init: true)
  end
end
