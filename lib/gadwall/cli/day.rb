# frozen_string_literal: true

module Gadwall
  module CLI
    # `bin/gadwall day`: a day's work planned over people, places and tools.
    class Day < Command
      USAGE = ["day DAY.json", "a day's work: who does what, where and when; what is late"].freeze

      private

      def answer(path)
        Scheduling::DayFile.new(text_of(path)).to_h
      end
    end
  end
end
