# frozen_string_literal: true

module Gadwall
  module Observations
    # A code that stood in a scan. status: of TroubleCodes::StatusByte::WORDS, or nil; claim: id of data/codes/claims,
    # or "lost_abs" for a module missed on a bus; sender: name of the module that sent it, where noted; about: id of the
    # module whose data it calls invalid, or nil; known: does the catalogue know the code?
    CodeSeen =
      Struct.new(
        :seq,
        :code,
        :failure_type,
        :status,
        :circuit_id,
        :claim,
        :text,
        :sender,
        :about,
        :known,
        keyword_init: true
      ) do
        # Does it stand, now or in memory? A record that was not tested, or passed its test, is no code.
        def set?
          !%w[not_tested passed].include?(status)
        end

        # As it is called in a sentence: its number, or its text where the tool prints none.
        def label
          code == NO_NUMBER ? "'#{text}'" : word
        end

        # "C0031-13", or "C0031" without a failure type.
        def word
          [code, failure_type].compact.join("-")
        end
      end
  end
end
