# frozen_string_literal: true

module Store
  # The shop's corrections of what codes mean, by Codes::CodeReader.key.
  class CodeWordStore
    def initialize(database)
      @rows = database[:code_words]
    end

    # {key => {"circuit" =>, "claim" =>}}, as CodeReader takes it.
    def corrections
      @rows.all.to_h { |row| [row[:key], { "circuit" => row[:circuit], "claim" => row[:claim] }.compact] }
    end

    # Keeps a correction, in place of an earlier one of the same key. at: ISO 8601 text.
    def keep(key, circuit:, claim:, at:)
      @rows.insert_conflict(target: :key, update: { circuit: circuit, claim: claim, at: at }).insert(key: key, 
circuit: circuit, claim: claim, at: at)
    end
  end
end
