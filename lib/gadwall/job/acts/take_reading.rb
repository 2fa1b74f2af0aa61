# frozen_string_literal: true

module Gadwall
  module Job
    module Acts
      # Enters what a test showed: a reading, or an outcome seen. values: test (full id), typed (as entered), condition
      # (of Evidence::CONDITIONS, or nil), phase ("before" or "after" the repair).
      class TakeReading < Act
        TOO_EARLY = "Sign the steps of the repair first: the confirming test belongs after them."

        private

        def closed
          after? ? before_decision : after_decision
        end

        def after?
          values[:phase] == "after"
        end

        def check
          return refuse("reading", TOO_EARLY) if after? && !dossier.plan&.done?

          _, @test = dossier.system.test(values[:test])
          @result = Evidence::Result.of(@test, values[:typed].to_s)
        rescue UnknownNameError => error
          refuse("test", error.message)
        rescue InputError => error
          refuse("reading", error.message)
        end

        def entries
          kind = @test.numeric? ? Entries::Reading : Entries::Finding
          [
            kind.of(
              test: values[:test],
              typed: values[:typed].to_s,
              result: @result,
              condition: (values[:condition] if Evidence::CONDITIONS.key?(values[:condition])),
              phase: ("after" if after?)
            )
          ]
        end
      end
    end
  end
end
