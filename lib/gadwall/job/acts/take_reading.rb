# frozen_string_literal: true

module Gadwall
  module Job
    module Acts
      # Enters what a test showed: a reading, or an outcome seen. values: test (full id), typed (as entered), condition
      # (of Observations::CONDITIONS, or nil), caught and tries (how often the outcome was seen, in how many), phase
      # ("before" or "after" the repair).
      class TakeReading < Act
        MOST = Entries::Observed::MOST_TRIES
        TRIES = "Enter how often it was seen and in how many tries, at most #{MOST}.".freeze
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
          @result = Observations::Result.of(@test, values[:typed].to_s)
          refuse("tries", TRIES) if several? && !values[:caught].to_i.between?(0, [values[:tries], MOST].min)
        rescue UnknownNameError => error
          refuse("test", error.message)
        rescue InputError => error
          refuse("reading", error.message)
        end

        # Was it tried more than once?
        def several?
          !@test.numeric? && values[:tries].to_i > 1
        end

        def entries
          kind = @test.numeric? ? Entries::Reading : Entries::Finding
          [
            kind.of(
              test: values[:test],
              typed: values[:typed].to_s,
              result: @result,
              condition: (values[:condition] if Observations::CONDITIONS.key?(values[:condition])),
              caught: (values[:caught] if several?),
              tries: (values[:tries] if several?),
              phase: ("after" if after?)
            )
          ]
        end
      end
    end
  end
end
