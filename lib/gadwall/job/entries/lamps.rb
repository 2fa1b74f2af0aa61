# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # Warning lamps and messages as the technician or the driver saw them (data/vehicle/lamps.yml). What a later entry
      # says of a lamp goes before what an earlier one said.
      class Lamps < Entry
        include Withdrawable

        KIND = "lamps"
        VERSION = 1

        # {id of a lamp => when it is lit, of Observations::LAMP_TIMES, or nil}.
        def lit
          (data["lit"] || []).to_h { |row| row.is_a?(Hash) ? [row["lamp"], row["when"]] : [row, nil] }
        end

        # Ids of lamps that pass their bulb check and stay out.
        def out
          data["out"] || []
        end

        # Does the diagnosis use it?
        def evidence?
          true
        end

        private

        def check
          list!("lit")
          list!("out")
          (data["lit"] || []).each { |row| lamp!(row) }
          both = lit.keys & out
          fault!("out", both.first, "each lamp either lit or out") if both.any?
        end

        def lamp!(row)
          return if row.is_a?(String)

          named = row.is_a?(Hash) && row["lamp"].is_a?(String)
          fault!("lit", row, "the id of a lamp, or { lamp, when }") unless named
          return if row["when"].nil? || Observations::LAMP_TIMES.key?(row["when"])

          fault!("when", row["when"], "one of #{Observations::LAMP_TIMES.keys.join(", ")}")
        end
      end
    end
  end
end
