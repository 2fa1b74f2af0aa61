# frozen_string_literal: true

module Store
  # What the workshop's closed jobs turned out to be, with the day: a count that is kept up at each hand-over, so that
  # closing one job changes no other that is in the house already.
  class ClosedCaseStore
    def initialize(database)
      @rows = database[:closed_cases]
    end

    # What was known when a vehicle came in: {template id => {fault id => count}}. templates: ids of circuit templates;
    # before: ISO 8601 text. A cause whose vehicle came back with the same complaint no longer counts from that day on.
    def counts(templates, before:)
      standing = Sequel.|({ revoked_at: nil }, Sequel[:revoked_at] >= before)
      rows =
        @rows
          .where(template: templates)
          .where(standing)
          .where { closed_at < before }
          .group_and_count(:template, :fault)
          .all
      rows.group_by { |row| row[:template] }.transform_values { |own| own.to_h { |row| [row[:fault], row[:count]] } }
    end
  end
end
