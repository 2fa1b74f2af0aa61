# frozen_string_literal: true

module Web
  module Routes
    # The practice bay: choosing an exercise, and how it went.
    module Practice
      Core = Gadwall::Training
      MOST_SEED = 999_999_999

      def self.registered(app)
        app.get("/practice") { show(practice_page) }

        app.post("/practice") do
          redirect begin_exercise(chosen_exercise), 303
        rescue Gadwall::Error => error
          status 422
          show(practice_page(errors: { "seed" => error.message }, typed: { "seed" => input.text("seed") }))
        end

        app.get("/practice/rubric") { show(Pages::RubricPage.new(rubric, saved: input.given?("saved"))) }

        app.post("/practice/rubric") do
          typed = input.fields("points").transform_values(&:to_s)
          settings.practice.judge_by(Core::Rubric.new(typed), by: person)
          redirect "/practice/rubric?saved=1", 303
        rescue Gadwall::InputError => error
          status 422
          show(Pages::RubricPage.new(rubric, errors: { error.field => error.message }, typed: typed))
        end

        app.get("/jobs/:number/debrief") do
          stand = exercise_stand
          redirect "/jobs/#{dossier.number}/bench", 303 unless stand.ended

          show(Pages::DebriefPage.new(dossier, debrief_of(stand)))
        end

        app.helpers Exercises
      end

      # Exercises as jobs of a record of their own.
      module Exercises
        def practice_page(**more)
          bay = settings.practice
          rows =
            bay
              .results
              .unfinished(SHOWN)
              .map do |id|
                record = bay.jobs.by_id(id)
                Running.new(number: record.number, name: record.vehicle_name, complaint: record.complaint)
              end
          Pages::PracticePage.new(bay.results.of(person), running: rows, learner: person, **more)
        end

        SHOWN = 6 # of the exercises that were begun and not ended, the newest
        Running = Struct.new(:number, :name, :complaint, keyword_init: true)

        def chosen_exercise
          id = input.text("exercise")
          return Core::ExerciseBook.find(id) unless id.empty?

          level = input.integer("level").to_i.clamp(1, 4)
          seed = input.integer("seed")
          unless seed&.between?(1, MOST_SEED)
            raise Gadwall::InputError.new(
                    field: "seed",
                    given: input.text("seed"),
                    expected: "a whole number from 1 on"
                  )
          end

          Core::ExerciseBook.find("seed-#{level}-#{seed}")
        end

        # Takes the vehicle in and puts it on the stand. Returns where to go on.
        def begin_exercise(exercise)
          bay = settings.practice
          values = {
            vehicle: exercise.vehicle,
            customer: exercise.customer,
            complaint: exercise.complaint,
            ids: exercise.symptoms,
            triage: [],
            promised_at: nil
          }
          made = nil
          landing =
            bay.together do
              led =
                bay.check_in(values, by: person, token: form_token) do |job|
                  made = job
                  "/jobs/#{job.number}/codes"
                end
              bay.stands.connect(made, exercise, by: person, at: now) if made
              led
            end
          get_ready(made, exercise) if made
          landing
        end

        # What its first pages and its end need, computed while the learner reads the complaint.
        def get_ready(record, exercise)
          bay = settings.practice
          settings.workshop.beside do
            bay.stands.of(record)
            bay.dossier(record.number).stage
            solution_of(exercise)
          end
        end

        # The stand of the exercise of the address. Raises Store::NotFound.
        def exercise_stand
          connected_stand or raise Store::NotFound.new(dossier.number, kind: "vehicle connected to")
        end

        def debrief_of(stand)
          Core::Debrief.new(stand, dossier.log, solution_of(stand.exercise), rubric: rubric)
        end

        # Gadwall::Training::Rubric, as it holds now.
        def rubric
          settings.practice.rubric
        end

        # How the advice solves an exercise, computed once: Gadwall::Training::Solver::Solution.
        def solution_of(exercise)
          models = settings.workshop.loader.models
          settings.solutions.fetch(exercise.id) { Core::Solver.new(exercise, models: models).solve }
        end

        # Writes the score of an exercise that has ended, once.
        def keep_result(stand)
          return unless practice? && stand.ended

          debrief = debrief_of(stand)
          workshop.results.add(
            Store::PracticeResultStore::Result.new(
              job_id: dossier.record.id,
              learner: person.to_s,
              exercise: stand.exercise.id,
              level: stand.exercise.level,
              family: debrief.family,
              score: debrief.score,
              minutes: stand.minutes.round,
              money: stand.money,
              ended: stand.ended.id,
              at: now.iso8601
            )
          )
        end
      end
    end
  end
end
