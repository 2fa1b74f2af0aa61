# frozen_string_literal: true

module Web
  # A copy of the workshop a day, made beside the work.
  class DailyCopy
    LOOK_S = 1800

    # copies: Store::Copies; clock: as of Workshop.
    def initialize(copies, clock:)
      @copies = copies
      @clock = clock
    end

    # Looks every so often, until the process ends.
    def keep
      Thread.new do
        loop do
          Background.quietly { @copies.make(@clock.call.localtime) }
          sleep LOOK_S
        end
      end
    end

    # Is the last good copy too old?
    def overdue?
      @copies.overdue?(@clock.call.localtime.to_date)
    end
  end
end
