# frozen_string_literal: true

module Web
  # Work that must not keep a page waiting. It is done in a thread of its own, which gets no less of Ruby's time for a
  # low priority (docs/decisions.md); what lasts long lets others go on by itself.
  module Background
    # Runs the block; trouble is written to the log and ends only this work.
    def self.quietly
      yield
    rescue StandardError => error
      warn "background work: #{error.class}: #{error.message}"
    end

    # One thread that does one thing after the other, however many ask. What has waited longest is dropped where more
    # wait than MOST: it is only done sooner here, never only here.
    class Worker
      MOST = 4

      def initialize
        @waiting = []
        @lock = Mutex.new
        @come = ConditionVariable.new
      end

      # Does the block when its turn comes. once: a name of which one waits at the most, nil for none.
      def later(once: nil, &work)
        @lock.synchronize do
          return if once && @waiting.any? { |name, _| name == once }

          @thread ||= Thread.new { run }
          @waiting << [once, work]
          @waiting.shift while @waiting.size > MOST
          @come.signal
        end
      end

      # How many wait.
      def size
        @lock.synchronize { @waiting.size }
      end

      private

      def run
        loop do
          work =
            @lock.synchronize do
              @come.wait(@lock) while @waiting.empty?
              @waiting.shift.last
            end
          Background.quietly(&work)
        end
      end
    end
  end
end
