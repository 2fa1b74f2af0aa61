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
  end
end
