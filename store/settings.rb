# frozen_string_literal: true

require "json"

module Store
  # What the workshop has set, by key, with who set it and when.
  class Settings
    def initialize(database)
      @rows = database[:settings]
    end

    # What was kept under a key, nil where nothing was.
    def [](key)
      text = @rows.where(key: key).get(:value)
      text && JSON.parse(text)
    end

    # value: what JSON can write; by: who; at: ISO 8601 text.
    def keep(key, value, by:, at:)
      row = { value: JSON.generate(value), at: at, by: by.to_s }
      @rows.insert_conflict(target: :key, update: row).insert(key: key, **row)
    end
  end
end
