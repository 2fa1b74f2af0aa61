# frozen_string_literal: true

module Gadwall
  module Evaluation
    module Vehicles
      # The values of one foreign vehicle today. battery, feed (to its active sensors), bias (to passive ones), five:
      # volt; coil: ohm of a sound passive sensor; pull_up: volt to switches.
      class Day
        attr_reader :battery, :sensor_feed, :bias, :bias_ohm, :five, :coil, :pull_up, :pull_up_ohm

        def initialize(random)
          @battery = 11.6 + (random.rand * 2.8)
          @sensor_feed = [5.0, 8.0, 10.0, @battery - 0.3][random.rand(4)] * (0.98 + (0.04 * random.rand))
          @bias = [1.7, 2.5, 5.0, 5.0][random.rand(4)] * (0.97 + (0.06 * random.rand))
          @bias_ohm = 2000.0 * Math.exp(random.rand * 2.5)
          @five = 4.95 + (0.1 * random.rand)
          @coil = 700.0 + (random.rand * 1500.0)
          @pull_up = [5.0, @battery - 0.4][random.rand(2)]
          @pull_up_ohm = 700.0 * Math.exp(random.rand * 1.8)
        end
      end
    end
  end
end
