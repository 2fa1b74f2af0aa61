# frozen_string_literal: true

module Gadwall
  module Scheduling
    # Times of a day as people and files write them, and minutes from midnight.
    module Clock
      DAY = 24 * 60

      # "08:30", "26:15" (a quarter past two of the next night). Returns minutes. Raises InputError with the field.
      def self.minutes(text, field:)
        match = /\A([0-4]?\d):([0-5]\d)\z/.match(text.to_s.strip)
        raise InputError.new(field: field, given: text, expected: "a time such as 08:30") unless match

        (match[1].to_i * 60) + match[2].to_i
      end

      # minutes: Integer. Returns "08:30"; hours go on after midnight.
      def self.text(minutes)
        format("%<hour>02d:%<minute>02d", hour: minutes / 60, minute: minutes % 60)
      end
    end
  end
end
