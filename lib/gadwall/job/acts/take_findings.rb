# frozen_string_literal: true

module Gadwall
  module Job
    module Acts
      # Takes what a capture showed into the evidence, all of it at once. values: rows ([{"test", "result"}, ...]),
      # capture (its number).
      class TakeFindings < Act
        private

        def closed
          after_decision
        end

        def check
          if values[:rows].empty?
            return refuse("capture", "This capture shows nothing about a circuit of this vehicle.")
          end

          values[:rows].each do |row|
            Observations::Result.of(dossier.system.test(row["test"]).last, row["result"].to_s)
          end
        rescue InputError => error
          refuse("capture", error.message)
        end

        def entries
          values[:rows].map do |row|
            Entries::Finding.new(row.merge("kind" => "finding", "capture" => values[:capture]))
          end
        end
      end
    end
  end
end
