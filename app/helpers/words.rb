# frozen_string_literal: true

module Web
  module Helpers
    # Chances and times in words that mean the same on every screen.
    module Words
      CHANCES = [
        [0.95, "nearly certain"],
        [0.8, "likely"],
        [0.5, "more likely than not"],
        [0.2, "possible"],
        [0.05, "less likely"],
        [0.0, "hardly"]
      ].freeze

      def chance_word(probability)
        CHANCES.find { |limit, _| probability >= limit }.last
      end

      # "62 %", "under 1 %", "over 99 %": never a false 0 or 100.
      def percent(probability)
        return "under 1 %" if probability < 0.01
        return "over 99 %" if probability > 0.99

        "#{(probability * 100).round} %"
      end

      def minutes(count)
        "#{count.round} min"
      end

      def money(amount)
        amount.to_i.to_s.gsub(/(\d)(?=(\d{3})+\z)/, '\1 ')
      end

      # "since 3 h", from an ISO time.
      def since(text, now)
        minutes = ((now - Time.iso8601(text)) / 60).round
        return "just now" if minutes < 2
        return "#{minutes} min" if minutes < 120
        return "#{(minutes / 60.0).round} h" if minutes < 48 * 60

        "#{(minutes / 1440.0).round} days"
      end

      def clock(text)
        Time.iso8601(text).strftime("%d %b %H:%M")
      end

      def capital(text)
        text.to_s.sub(/\A\p{Ll}/, &:upcase)
      end
    end
  end
end
