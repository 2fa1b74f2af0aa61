# frozen_string_literal: true

module Web
  # Work that must not keep a page waiting: a thread at low priority gets short turns.
  module Background
    PRIORITY = -5

    # Runs the block at low priority; trouble is told in the log and ends only this work.
    def self.quietly
      Thread.current.priority = PRIORITY
      yield
    rescue StandardError => error
      warn "background work: #{error.class}: #{error.message}"
    end
  end
end
