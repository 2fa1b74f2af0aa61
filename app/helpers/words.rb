# frozen_string_literal: true

require "time"

module Web
  module Helpers
    # Chances, units, money and times in words that mean the same on every screen.
    module Words
      CHANCES = [
        [0.95, "almost certain"],
        [0.8, "likely"],
        [0.5, "more likely than not"],
        [0.2, "possible"],
        [0.05, "unlikely"],
        [0.0, "very unlikely"]
      ].freeze
      # As on the meter. Files and the command line keep "ohm".
      UNITS = { /\b([kM]?)ohm\b/ => '\1Ω', /\bN m\b/ => "N·m", %r{\bm/s2\b} => "m/s²", /\bmm2\b/ => "mm²" }.freeze

      # probability: 0..1.
      def chance_word(probability)
        CHANCES.find { |limit, _| probability >= limit }.last
      end

      # "62 %", "< 1 %", "> 99 %": never a false 0 or 100. probability: 0..1.
      def percent(probability)
        return "< 1 %" if probability < 0.01
        return "> 99 %" if probability > 0.99

        "#{(probability * 100).round} %"
      end

      def minutes(count)
        "#{count.round} min"
      end

      # "46 200". number: Integer.
      def self.thousands(number)
        number.to_s.gsub(/(\d)(?=(\d{3})+\z)/, '\1 ')
      end

      def thousands(number)
        Words.thousands(number)
      end

      # amount: in the workshop's currency.
      def money(amount)
        "#{thousands(amount.to_i)} #{currency}"
      end

      # The workshop's currency, as it is set.
      def currency
        respond_to?(:workshop) ? workshop.shop.currency : Gadwall::Decision::Shop::CURRENCY
      end

      # Units as on the meter, in a text that the core wrote.
      def units(text)
        UNITS.reduce(text.to_s) { |words, (plain, sign)| words.gsub(plain, sign) }
      end

      # "3 h", from an ISO time. now: Time.
      def since(text, now)
        span((now - Time.iso8601(text)) / 60)
      end

      # count: minutes.
      def span(count)
        minutes = count.round
        return "just now" if minutes < 2
        return "#{minutes} min" if minutes < 120
        return "#{(minutes / 60.0).round} h" if minutes < 48 * 60

        "#{(minutes / 1440.0).round} days"
      end

      def clock(text)
        Time.iso8601(text).localtime.strftime("%d %b %H:%M")
      end

      def capital(text)
        text.to_s.sub(/\A\p{Ll}/, &:upcase)
      end
    end
  end
end
