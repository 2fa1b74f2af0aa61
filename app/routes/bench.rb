# frozen_string_literal: true

module Web
  module Routes
    # The bench of a job that is connected to a vehicle: probes, meter, scope, hands.
    module Bench
      FIELDS = %w[to corner circuit joint place option what range a b rev_s wire test id].freeze

      def self.registered(app)
        app.get("/jobs/:number/bench") { bench(exercise_stand) }

        app.post("/jobs/:number/bench") do
          stand, = on_stand(act_of_form)
          keep_result(stand)
          bench(stand)
        rescue Gadwall::InputError => error
          status 422
          bench(exercise_stand, errors: { "bench" => error.message })
        end

        # The last reading of the bench, entered in the record.
        app.post("/jobs/:number/bench/take") do
          stand = exercise_stand
          page = bench_page(stand)
          test, _, typed = page.takeable || [input.text("test"), nil, input.text("typed")]
          done = take_from_stand(test, typed) { |job| "/jobs/#{job.number}/bench" }
          status done.status unless done.ok?
          bench(stand, errors: { "bench" => done.errors.values.first }.compact, taken: stand.done.size)
        end

        app.get("/jobs/:number/live") do
          page = trace_page(circuit_id: input.text_or_nil("circuit"))
          partial("bench/_live", page: page, values: exercise_stand.live(page.circuit))
        end

        app.post("/jobs/:number/hint") do
          on_stand({ "kind" => "hint", "seq" => dossier.last_seq })
          redirect "/jobs/#{dossier.number}/trace", 303
        end

        # A test done on the vehicle as its text says, and entered.
        app.post("/jobs/:number/bench/test") do
          _, done = on_stand({ "kind" => "test", "test" => input.text("test") })
          typed = done.value.is_a?(Gadwall::Quantity::Reading) ? done.value.to_s : done.value
          traced(take_from_stand(done.test.to_s, typed) { |job| "/jobs/#{job.number}/trace" })
        rescue Gadwall::InputError => error
          status 422
          show_trace(trace_page(test_id: input.text("test"), errors: { "reading" => error.message }))
        end

        app.helpers Drawing
      end

      # The bench whole, or the part that htmx swaps.
      module Drawing
        # Does an act; the result of an exercise that it ends is kept.
        def on_stand(act)
          @acts_on_stand = @acts_on_stand.to_i + 1
          token = input.token && "#{input.token}-#{@acts_on_stand}" # a form may do several acts, each of them once
          act = { "token" => token }.compact.merge(act)
          workshop.stands.act(dossier.record, act, by: person, at: now).tap { |stand, _| keep_result(stand) }
        end

        # Enters what the vehicle on the stand showed. Returns Workshop::Performed.
        def take_from_stand(test, typed, &)
          values = { test: test, typed: typed.to_s, phase: dossier.plan&.done? ? "after" : "before" }
          perform(Gadwall::Job::Acts::TakeReading, values, origin: Interface::SIMULATED, &)
        end

        # The vehicle that the job is connected to, or nil. A customer's job is connected to none.
        def connected_stand
          workshop.stands.of(dossier.record) if workshop.simulates?
        end

        # A step that was signed is done on the vehicle of the exercise: what it makes safe, mends or teaches.
        def follow_on_stand(step)
          return unless practice? && connected_stand

          row = dossier.plan.row(step)
          act = { "kind" => "step", "title" => row.title, "words" => row.step.does, "minutes" => 1 }
          act["places"] = decided_places if row.step.phase == "work" && connected_stand.mended_nothing?
          on_stand(act)
        end

        # [[place, option], ...] of what was decided to be mended. An option that repairs nothing mends nothing.
        def decided_places
          mending = dossier.log.decisions.reject { |each| Gadwall::Repair::Touches::NOTHING.include?(each.option) }
          mending.flat_map { |each| each.place.to_s.split(" + ").map { |place| [place, each.option] } }
        end

        # Does the search of this exercise go on without advice? Not where a hint was bought for what is known now.
        def guarded?
          return @guarded if defined?(@guarded)

          @guarded = practice? && !dossier.decided? && !dossier.assessment.verdict.proven? && !hinted?
        end

        def hinted?
          stand = connected_stand
          stand.nil? || stand.hinted_at == dossier.last_seq
        end

        def act_of_form
          fields = Bench::FIELDS.to_h { |name| [name, input.text_or_nil(name)] }.compact
          { "kind" => input.text("kind") }.merge(fields)
        end

        def bench_page(stand, **more)
          choice = { circuit: input.text_or_nil("circuit"), range: input.text_or_nil("range") }
          choice = choice.merge(red: input.text_or_nil("a"), black: input.text_or_nil("b"))
          Pages::BenchPage.new(dossier, stand, choice: choice, **more)
        end

        def bench(stand, **more)
          page = bench_page(stand, **more)
          htmx? ? partial("bench/_screen", page: page) : show(page)
        end
      end
    end
  end
end
