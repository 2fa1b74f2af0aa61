# frozen_string_literal: true

module Gadwall
  module Evaluation
    module Vehicles
      module Families
        # A sensor that draws 7 or 14 mA as the ring passes; the module reads the current over a shunt.
        class ActiveWheel < Wheel
          STARVED = 4.2 # volt; a sensor with less draws next to nothing

          private

          def wires
            %w[feed return]
          end

          def setup
            fitting = [20.0, 50.0, 100.0, 115.0].select { |ohm| day.sensor_feed - (ohm * 0.016) > STARVED + 0.4 }
            @shunt = fitting.empty? ? 10.0 : some(fitting)
            @low = 0.0063 + (0.0014 * random.rand)
            @high = @low * (1.95 + (0.1 * random.rand))
            @driver = 5.0 + (15.0 * random.rand)
            @asleep = 2.0e4 * Math.exp(random.rand * 3.0)
            @rests_high = random.rand < 0.5
          end

          def ends(net, state)
            if state[:key] && !state[:dead] && !wrong?("dead")
              net.source("feed/near", Net::BODY, day.sensor_feed, @driver)
            else
              net.resistor("feed/near", Net::BODY, @asleep)
            end
            net.resistor("return/near", Net::BODY, @shunt)
            short = present.find { |trouble| trouble.state == "shorted" }
            net.resistor("feed/far", "return/far", short.ohm) if short
            metering(net, state[:metering]) if state[:metering]
            draw_current(net, state)
          end

          # The meter in the feed, the return bridged beside it.
          def metering(net, joint)
            net.resistor("feed/#{joint}-", "feed/#{joint}+", 1.5)
            net.resistor("return/#{joint}-", "return/#{joint}+", 0.05)
          end

          def draw_current(net, state)
            return net.resistor("feed/far", "return/far", 1.0e6) if state[:dead] || state[:starved] || !state[:key]

            resting = @rests_high ? @high : @low
            ampere = wrong?("open") ? 1.0e-6 : state.fetch(:level, resting)
            net.current("feed/far", "return/far", ampere)
          end

          # The sensor starves where too little arrives.
          def net(state, dead: false)
            return super if dead || state[:starved] || !state[:key]

            solved = super.solve
            left = solved.fetch("feed/far", 0.0) - solved.fetch("return/far", 0.0)
            super(left < STARVED ? state.merge(starved: true) : state)
          end

          def points(name, place, wire)
            here = { apart: [place], key: true }
            both = { apart: [place, "sensor_plug"].uniq }
            case name
            when "feed_volts"
              ["feed/#{place}-", "return/#{place}-", here]
            when "feed_to_body"
              ["feed/#{place}-", Net::BODY, here]
            when "return_volts"
              ["return/near", Net::BODY, { key: true }]
            when "insulation"
              ["#{wire}/#{place}+", Net::BODY, both]
            when "short_together"
              ["feed/#{place}+", "return/#{place}+", both]
            when "stray_volts"
              ["#{wire}/#{place}+", Net::BODY, both.merge(key: true)]
            when "current", "scope"
              [nil, nil, { apart: [place].compact }]
            end
          end

          def measured(name, place, wire, unit)
            return super unless name == "current"

            solved = net({ apart: [place], key: true, metering: place }).solve
            ((solved["feed/#{place}-"] - solved["feed/#{place}+"]) / 1.5 * (1 + (0.01 * gauss))) + (1.0e-5 * gauss)
          end

          # Of both levels: how far they stand apart at the module.
          def wiring_strength
            high, low = [@high, @low].map { |level| volts("return/near", Net::BODY, { key: true, level: level }) }
            ((high - low) / ((@high - @low) * @shunt)).clamp(0.0, 1.0) * (wrong?("stuck") || wrong?("open") ? 0 : 1)
          end

          def at_pins(_place)
            category(wiring_strength)
          end

          def part_troubles
            ring_troubles +
              [
                -> { part("sensor", "open", duty: duty(0.15)) },
                -> { part("sensor", "open") },
                -> { part("sensor", "stuck") },
                -> { part("sensor", "shorted", ohm: 4.0 * Math.exp(random.rand * 4.0)) },
                -> { part("sensor", "weak", ohm: 0.15 + (random.rand * 0.25)) },
                -> { part("module_input", "dead") }
              ]
          end

          public

          # As Branch#claims.
          def claims
            return [[random.rand < 0.6 ? "short_to_ground" : "no_signal", true]] if wrong?("dead")

            feed = volts("feed/near", Net::BODY, { key: true })
            current = volts("return/near", Net::BODY, { key: true }) / @shunt
            return [["short_to_ground", true]] if feed < 0.55 * day.sensor_feed
            return [["open", true]] if current < 0.0035
            return [["short_to_supply", true]] if current > 0.024

            signal_claims(category(wiring_strength))
          end
        end
      end
    end
  end
end
