# frozen_string_literal: true

module Store
  # The workshop's corrections of what DTCs mean, by Codes::CodeReader.key.
  class CodeWordStore
    def initialize(database)
      @rows = database[:code_words]
    end

    # {key => {"circuit" =>, "claim" =>}}, as CodeReader takes it.
    def corrections
      @rows.all.to_h { |row| [row[:key], { "circuit" => row[:circuit], "claim" => row[:claim] }.compact] }
    end

    # Saves a correction, in place of an earlier one of the same key. at: ISO 8601 text.
    def save(key, circuit:, claim:, at:)
      row = { circuit: circuit, claim: claim, at: at }
      @rows.insert_conflict(target: :key, update: row).insert(key: key, **row)
    end
  end
end
