# frozen_string_literal: true

module Web
  module Pages
    # Everything the trace screen shows, sorted and worded.
    class TracePage
      SHOWN_SUSPECTS = 7
      SHOWN_OPTIONS = 6
      # moved: change of the place's chance through the last reading, -1..1.
      # faults: those of the place that count, [[id, name, chance], ...].
      SuspectRow = Struct.new(:rank, :text, :probability, :moved, :place, :faults, keyword_init: true)
      # says: what the code is to the leading suspects, in words.
      CodeRow = Struct.new(:word, :kind, :says, :by, :circuit, keyword_init: true)
      LineRow = Struct.new(:text, :state, :probability, :circuit_id, :here, keyword_init: true)

      attr_reader :file, :errors, :typed, :option, :circuit

      # file: Desk::File; test_id, circuit_id: chosen by hand, or nil; errors, typed: of a refused reading.
      def initialize(file, test_id: nil, circuit_id: nil, errors: {}, typed: nil)
        @file = file
        @assessment = file.standing.assessment
        @errors = errors
        @typed = typed
        @option = choose(test_id, circuit_id)
        @circuit = @option&.circuit || @assessment.system.circuits.first
      end

      def verdict
        @assessment.verdict
      end

      def figure
        Svg::HarnessFigure.new(
          circuit.harness,
          title: circuit.title,
          place_states: place_states,
          probes: option ? option.test.probes : [],
          disconnected: option ? option.test.state.disconnected : []
        ).to_s
      end

      def plan
        spots =
          @assessment.system.circuits.map do |each|
            Svg::VehiclePlan::Spot.new(
              id: each.id,
              title: each.title,
              at: each.at,
              share: @assessment.posterior.circuit_probability(each)
            )
          end
        Svg::VehiclePlan.new(
          spots,
          here: circuit.id,
          driver_side: @assessment.system.sheet.driver_side,
          href: ->(id) { "#{base}/trace?circuit=#{id}" }
        ).to_s
      end

      def base
        "/jobs/#{file.job.number}"
      end

      # Suspected places, most probable first; the fault that leads in each gives the words.
      def suspects
        shown_places.each_with_index.map do |(place, probability), i|
          lead = @assessment.suspects.find { |suspect| suspect.place == place }
          SuspectRow.new(
            rank: i + 1,
            text: lead ? lead.text : place.tr("_/", " ,"),
            probability: probability,
            moved: probability - before.fetch(place, probability),
            place: place,
            faults: faults_of(place)
          )
        end
      end

      # Places too unlikely to list one by one.
      def unlikely_count
        @assessment.posterior.places.size - shown_places.size
      end

      # What the last reading did, in a sentence; nil before the first.
      def change
        last = last_reading or return nil
        up = moves.max_by(&:last)
        down = moves.min_by(&:last)
        told = [
          ("up: #{words(up)}" if up && up.last > 0.02),
          ("down: #{words(down)}" if down && down.last < -0.02)
        ].compact
        [last, told.empty? ? "hardly moved anything" : told.join("; ")]
      end

      # Meaning of each outcome of the test shown: [label, chance, what it points to, good].
      def outcomes
        (option&.outcomes || [])
          .first(5)
          .map { |outcome| [outcome.label, outcome.chance, place_name(outcome.places.keys.first), outcome.good] }
      end

      def other_options
        @assessment.next_tests.reject { |each| option && each.id == option.id }.first(SHOWN_OPTIONS)
      end

      # Every test of the circuit shown, for choosing by hand: [[id, title], ...].
      def all_tests
        circuit.model.tests.values.map { |test| ["#{circuit.id}.#{test.id}", test.title] }
      end

      def log
        @log ||= LogRows.new(file)
      end

      # Lines of investigation that can be followed side by side; [] where there is but one.
      def lines
        return [] if verdict.conclusions.size < 2

        verdict.conclusions.map do |line|
          id = line.suspect.circuit&.id
          LineRow.new(
            text: line.suspect.text,
            state: line.state,
            probability: line.probability,
            circuit_id: id,
            here: line.investigation.circuits.include?(circuit.id)
          )
        end
      end

      SAYS = {
        "cause" => "its cause is here",
        "symptom" => "follows from",
        "history" => "history",
        "unexplained" => "not explained yet"
      }.freeze

      # Codes of the scans and what explains them.
      def codes
        @assessment.explanations.rows.map do |row|
          CodeRow.new(
            word: row.code.word,
            kind: row.kind,
            says: SAYS.fetch(row.kind),
            by: row.kind == "symptom" ? row.by.join("; ") : nil,
            circuit: circuit_title(row.code.circuit_id)
          )
        end
      end

      # Ids of what was said of complaint, work and life.
      def circumstances
        @assessment.body.symptoms.map(&:id)
      end

      def circumstances_line
        words = circumstances.map { |id| @assessment.system.catalogue.symptoms.dig(id, "text").downcase }
        words << "#{shop_cases} closed cases" if shop_cases.positive? && file.log.shop_cases?
        words.empty? ? "nothing" : words.first(3).join("; ") + (words.size > 3 ? "; and #{words.size - 3} more" : "")
      end

      # The shop's closed cases of circuits like the one shown.
      def shop_cases
        @shop_cases ||= file.log.closed_case_counts.fetch(circuit.harness.id, {}).values.sum
      end

      # What may have gone wrong in the hand, where the last reading fits no suspect well; nil where it does.
      def doubt
        row = @assessment.weights.last
        if row && row.outlier_chance > Gadwall::Diagnosis::Weight::OUTLIER_FROM
          Gadwall::Diagnosis::RetestHints.explain(row.observation)
        end
      end

      # What frequency a test with the turning wheel should show, in words; nil where tyre or ring is not known.
      def expected_frequency
        hertz = option && option.test.kind == "signal" && @assessment.system.sheet.frequency_hz(10)
        hertz && "Expect #{hertz.round} Hz at 10 km/h, and #{@assessment.system.sheet.teeth} Hz at one turn a second."
      end

      # Only what this test's hand movements call for; what the vehicle calls for stands in the repair steps.
      def cautions
        ids = option ? option.test.cautions : []
        ids += ["no_module_yet"] if @assessment.cautions.any? { |caution| caution[:rule] == "no_module_yet" }
        ids.map { |id| @assessment.system.catalogue.cautions.fetch(id)["text"] }
      end

      def minutes_left
        @assessment.minutes_to_verdict
      end

      def place_name(place)
        suspect = @assessment.suspects.find { |each| each.place == place }
        suspect.nil? || suspect.none? ? "nothing wrong now" : place_words(suspect)
      end

      private

      def faults_of(place)
        @assessment
          .suspects
          .select { |suspect| suspect.place == place && !suspect.none? && suspect.probability >= 0.01 }
          .map { |suspect| [suspect.id, suspect.cause ? suspect.cause.name : suspect.fault.name, suspect.probability] }
      end

      def shown_places
        @assessment
          .posterior
          .places
          .first(SHOWN_SUSPECTS)
          .select
          .with_index { |(_, probability), i| i < 2 || probability >= 0.01 }
      end

      def circuit_title(id)
        id ? @assessment.system.circuit_named(id).title : "circuit not known: say it under First scan"
      end

      def choose(test_id, circuit_id)
        return by_hand(test_id) if test_id

        @assessment.next_tests.find { |each| circuit_id.nil? || each.circuit.id == circuit_id } || fallback(circuit_id)
      end

      def by_hand(test_id)
        circuit, test = @assessment.system.test(test_id)
        Gadwall::Diagnosis::NextTests.new(@assessment.posterior, @assessment.body).option(circuit, test)
      end

      def fallback(circuit_id)
        circuit_id && by_hand("#{circuit_id}.#{@assessment.system.circuit_named(circuit_id).model.tests.keys.first}")
      end

      def place_states
        circuit.harness.places.to_h do |place|
          [place, [@assessment.place_state(circuit.id, place), @assessment.posterior.chance_at(circuit.id, place)]]
        end
      end

      def last_reading
        @assessment.body.observations.last
      end

      # Chances of places without the last reading.
      def before
        @before ||=
          if last_reading
            body = @assessment.body.dup.tap { |copy| copy.observations = copy.observations[0..-2] }
            Gadwall::Diagnosis::Posterior.new(@assessment.system, body).places
          else
            {}
          end
      end

      def moves
        @moves ||=
          @assessment.posterior.places.map { |place, probability| [place, probability - before.fetch(place, 0.0)] }
      end

      def words(move)
        place, change = move
        "#{place_name(place)} #{change.positive? ? "+" : "−"}#{(change.abs * 100).round} points"
      end

      def place_words(suspect)
        return suspect.text if suspect.cause

        name = suspect.circuit.harness.place_name(suspect.fault.place)
        name == suspect.circuit.title ? name : "#{suspect.circuit.title}, #{name}"
      end
    end
  end
end
