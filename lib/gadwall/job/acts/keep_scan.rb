# frozen_string_literal: true

module Gadwall
  module Job
    module Acts
      # Keeps a scan of all modules. values: codes ([Hash, ...] as Entries::Scan), modules ([{"name", "answered"},
      # ...]), phase ("before" or "after" the repair), responded, expected (numbers of modules, or nil), via
      # ("interface" where it was read by one, or nil).
      class KeepScan < Act
        private

        def closed
          after? ? before_decision : after_decision
        end

        def after?
          values[:phase] == "after"
        end

        def check
          counted
          reader = TroubleCodes::CodeReader.new(dossier.sheet, dossier.catalogue)
          values[:codes].each_with_index { |row, i| reader.read(row, field: "line #{i + 1}") }
          return unless after? && dossier.plan && !dossier.plan.done?

          refuse("codes", "Sign the steps of the repair first: the post-scan belongs after them.")
        rescue InputError => error
          refuse("codes", error.message)
        end

        def counted
          responded, expected = values.values_at(:responded, :expected)
          return unless responded && expected && responded > expected

          refuse("responded", "#{responded} modules responded, only #{expected} are expected: correct one of the two.")
        end

        def entries
          row = { "kind" => "scan", "phase" => after? ? "after" : "before" }
          row["via"] = values[:via] if values[:via]
          row.merge!({ "responded" => values[:responded], "expected" => values[:expected] }.compact)
          [Entries::Scan.new(row.merge("modules" => values[:modules], "codes" => values[:codes]))]
        end
      end
    end
  end
end
