# frozen_string_literal: true

module Gadwall
  module CLI
    # `bin/gadwall check`: a case is read, and what is in it is said.
    class Check < Command
      USAGE = ["check CASE.json", "read the case and say what is in it"].freeze

      private

      def answer(path)
        kase = case_at(path)
        {
          vehicle: kase.system.sheet.name,
          entries: kase.log.entries.size,
          standing: kase.log.valid_entries.size,
          circuits: kase.system.circuits.map(&:id),
          unread: kase.unread
        }
      end
    end
  end
end
