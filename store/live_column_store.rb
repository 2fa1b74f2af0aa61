# frozen_string_literal: true

module Store
  # What the workshop takes columns of live data for, by the column's name.
  class LiveColumnStore
    def initialize(database)
      @database = database
      @rows = database[:live_columns]
    end

    # {column name => parameter id, "" for none}, as LiveLog takes it.
    def known
      @rows.select_hash(:name, :parameter)
    end

    # Saves corrections, in place of earlier ones. columns: {name => parameter id or ""}; at: ISO 8601 text.
    def save(columns, at:)
      @database.transaction do
        columns.each do |name, parameter|
          row = { parameter: parameter, at: at }
          @rows.insert_conflict(target: :name, update: row).insert(name: name, **row)
        end
      end
    end
  end
end
