# frozen_string_literal: true

module Web
  module Pages
    # Everything the trace screen shows, sorted and worded.
    class TracePage < Page
      include TraceByHand

      SHOWN_SUSPECTS = 7
      SHOWN_OPTIONS = 6
      NOTEWORTHY_MOVE = 0.02 # change of a probability from which it is told
      # moved: change of the place's probability through the last reading, -1..1; faults: those of the place that count,
      # [[id, name, probability], ...].
      SuspectRow =
        Struct.new(:rank, :text, :probability, :moved, :place, :faults, keyword_init: true) do
          # Did the last reading move it enough to be shown?
          def moved?
            moved.abs >= 0.01
          end

          def way
            moved.positive? ? "up" : "down"
          end

          def arrow
            moved.positive? ? "▲" : "▼"
          end

          # Percentage points.
          def points
            (moved.abs * 100).round
          end
        end
      # A line of investigation that can be followed beside others.
      LineRow = Struct.new(:text, :state, :probability, :circuit_id, :here, keyword_init: true)

      attr_reader :option, :circuit

      # change: of Gadwall::Job::Summary; test_id, circuit_id: chosen by hand, or nil.
      def initialize(dossier, change: nil, test_id: nil, circuit_id: nil, errors: {}, typed: {})
        super(dossier, errors: errors, typed: typed)
        @assessment = dossier.assessment
        @moves = change && last_reading && change["seq"] == last_reading.seq ? change["moves"] : {}
        @by_hand = !test_id.nil?
        @option = choose(test_id, circuit_id)
        @circuit = @option&.circuit || @assessment.system.circuits.first
      end

      def stage
        "trace"
      end

      # Is the search open, or closed by a decision?
      def open?
        !dossier.decided? && !dossier.handed_over?
      end

      def verdict
        @assessment.verdict
      end

      # Does every conclusion's support stand in words the customer could read too?
      def proven
        return [] unless verdict.proven?

        verdict.conclusions.map { |each| each.suspect.none? ? NO_FAULT : "Proven: #{each.suspect.text}" }
      end

      NO_FAULT = "No fault found: cured, or only now and then"

      # Several faults at once, in a sentence; nil where there is one.
      def together
        return if lines.size < 2

        "#{lines.size} faults at once: each is a line of its own, so their shares add up to more than 100 %."
      end

      # [[id, words, pressed], ...]: is the fault there now?
      def presences
        Gadwall::Observations::PRESENCES.map { |id, words| [id, words, id == @assessment.body.presence] }
      end

      def lamps
        LampButtons.of(@assessment.body.lamps)
      end

      # What the test asks for before the hands move: bulb, helper, key, another test first.
      def needs
        option ? option.test.needs : []
      end

      def missing
        verdict.state == "likely" ? verdict.missing : []
      end

      def figure
        drawn(place_states, option)
      end

      # The vehicle in plan, with what is suspected where.
      def plan
        Svg::VehiclePlan.new(
          spots,
          here: circuit.id,
          driver_side: dossier.sheet.driver_side,
          href: ->(id) { "#{base}/trace?circuit=#{id}" }
        ).to_s
      end

      # Suspected places, most probable first; the fault that leads in each gives the words.
      def suspects
        shown_places.each_with_index.map do |(place, probability), i|
          lead = suspect_at(place)
          SuspectRow.new(
            rank: i + 1,
            text: lead ? lead.text : place.tr("_/", " ,"),
            probability: probability,
            moved: @moves.fetch(place, 0.0),
            place: place,
            faults: faults_of(place)
          )
        end
      end

      # Places too unlikely to list one by one.
      def unlikely_count
        @assessment.posterior.places.size - shown_places.size
      end

      # What the last reading did: [what was read, in a sentence]; nil before the first.
      def change
        return unless last_reading

        up = @moves.max_by(&:last)
        down = @moves.min_by(&:last)
        moved = [
          (words("up", up) if up && up.last > NOTEWORTHY_MOVE),
          (words("down", down) if down && down.last < -NOTEWORTHY_MOVE)
        ]
        [last_reading.typed, moved.compact.empty? ? "little change" : moved.compact.join("; ")]
      end

      # Meaning of each outcome of the test shown: Array of OutcomeRows::Row.
      def outcomes
        OutcomeRows.of(option) { |place| place_name(place) }
      end

      def other_options
        @assessment.next_tests.reject { |each| option && each.id == option.id }.first(SHOWN_OPTIONS)
      end

      # A test in words: with its circuit where that is another one than shown.
      def option_title(each)
        each.circuit.id == circuit.id ? each.test.title : "#{each.circuit.title}: #{each.test.title}"
      end

      # Every test of the circuit shown, for choosing by hand: [[id, title, chosen], ...].
      def all_tests
        circuit.model.offered_tests.map do |test|
          id = "#{circuit.id}.#{test.id}"
          [id, test.title, option&.id == id]
        end
      end

      def kicker
        return "Required for the diagnosis" if option.needed

        verdict.proven? ? "Optional further test" : "Next test"
      end

      # The unit that is typed, as on the meter: "Ω".
      def unit
        { "ohm" => "Ω" }.fetch(option.test.unit, option.test.unit)
      end

      def over_limit?
        option.test.unit == "ohm"
      end

      # [[id, words], ...]
      def conditions
        Gadwall::Observations::CONDITIONS.to_a
      end

      def log
        @log ||= LogRows.new(dossier, open: open?)
      end

      # Lines of investigation that can be followed side by side; [] where there is but one.
      def lines
        return [] if verdict.conclusions.size < 2

        verdict.conclusions.map do |conclusion|
          LineRow.new(
            text: conclusion.suspect.text,
            state: STATES.fetch(conclusion.state),
            probability: conclusion.probability,
            circuit_id: conclusion.suspect.circuit&.id,
            here: conclusion.investigation.circuits.include?(circuit.id)
          )
        end
      end

      STATES = { "open" => "undetermined", "likely" => "likely", "proven" => "proven" }.freeze
      # DTCs of the scans and what explains them: Array of ExplainedCodes::Row.
      def codes
        ExplainedCodes.of(@assessment)
      end

      # Plain questions of the build that matter now: Array of Choice.
      def builds
        @builds ||= open? ? BuildQuestions.open(dossier, @assessment) : []
      end

      def symptom_groups
        SymptomGroups.all(symptoms)
      end

      def circumstances_line
        words = symptoms.map { |id| catalogue.symptoms.dig(id, "text").sub(/\A\p{Lu}(?=\p{Ll})/, &:downcase) }
        words << "#{closed_cases} closed jobs" if closed_cases.positive? && shop_cases?
        return "none" if words.empty?

        words.first(3).join("; ") + (words.size > 3 ? "; and #{words.size - 3} more" : "")
      end

      def shop_cases?
        dossier.log.shop_cases?
      end

      # The workshop's closed jobs of circuits like the one shown.
      def closed_cases
        @closed_cases ||= dossier.log.closed_case_counts.fetch(circuit.harness.id, {}).values.sum
      end

      # A hint on what may have gone wrong by hand, where the last reading fits no suspect well; nil where it does.
      def doubt
        row = @assessment.weights.last
        return unless row && row.outlier_chance > Gadwall::Diagnosis::Weight::OUTLIER_FROM

        Gadwall::Diagnosis::RetestHints.explain(row.observation)
      end

      # What frequency a test with the turning wheel should show, in words; nil where tyre or ring is not known.
      def expected_frequency
        hertz = option && option.test.kind == "signal" && dossier.sheet.frequency_hz(10)
        hertz && "Expect #{hertz.round} Hz at 10 km/h, and #{dossier.sheet.teeth} Hz at one revolution per second."
      end

      # What this test's hand movements call for; and high voltage or stored pressure, where the way leads past them.
      def cautions
        rules = Gadwall::Diagnosis::Cautions
        ids = option ? rules.of_test(option.test, dossier.sheet) + rules.on_the_way(circuit, dossier.sheet) : []
        ids += @assessment.cautions.map { |caution| caution[:rule] } & ["no_module_yet"]
        ids.uniq.map { |id| catalogue.cautions.fetch(id)["text"] }
      end

      def minutes_left
        @assessment.minutes_to_verdict
      end

      def place_name(place)
        suspect = suspect_at(place)
        suspect.nil? || suspect.none? ? "no fault present" : place_words(suspect)
      end

      private

      # states: of places; shown: the option whose probes are drawn, or nil.
      def drawn(states, shown)
        Svg::HarnessFigure.new(
          circuit.harness,
          title: circuit.title,
          place_states: states,
          probes: shown ? shown.test.probes : [],
          disconnected: shown ? shown.test.state.disconnected : []
        ).to_s
      end

      def symptoms
        @assessment.body.symptoms.map(&:id)
      end

      def last_reading
        @assessment.body.observations.last
      end

      def suspect_at(place)
        (@suspects_at ||= @assessment.suspects.reverse.to_h { |suspect| [suspect.place, suspect] })[place]
      end

      def faults_of(place)
        found = @assessment.suspects.select { |each| each.place == place && !each.none? && each.probability >= 0.01 }
        found.map { |each| [each.id, each.cause ? each.cause.name : each.fault.name, each.probability] }
      end

      def shown_places
        @shown_places ||=
          @assessment
            .posterior
            .places
            .first(SHOWN_SUSPECTS)
            .select
            .with_index { |(_, probability), i| i < 2 || probability >= 0.01 }
      end

      def choose(test_id, circuit_id)
        return by_hand(test_id) if test_id

        return @assessment.next_tests.first if circuit_id.nil?

        @assessment.next_test_in([@assessment.system.circuit_named(circuit_id)]) || first_test_of(circuit_id)
      end

      def by_hand(test_id)
        circuit, test = @assessment.system.test(test_id)
        @assessment.option(circuit, test)
      end

      def first_test_of(circuit_id)
        first = @assessment.system.circuit_named(circuit_id).model.tests.keys.first
        first && by_hand("#{circuit_id}.#{first}")
      end

      def place_states
        circuit.harness.places.to_h do |place|
          [place, [@assessment.place_state(circuit.id, place), @assessment.posterior.chance_at(circuit.id, place)]]
        end
      end

      def spots
        @assessment.system.circuits.map do |each|
          share = @assessment.posterior.circuit_probability(each)
          Svg::VehiclePlan::Spot.new(id: each.id, title: each.title, at: each.at, share: share)
        end
      end

      def words(way, move)
        place, change = move
        "#{way}: #{place_name(place)} #{change.positive? ? "+" : "−"}#{(change.abs * 100).round} percentage points"
      end

      def place_words(suspect)
        return suspect.text if suspect.cause

        name = suspect.circuit.harness.place_name(suspect.fault.place)
        name == suspect.circuit.title ? name : "#{suspect.circuit.title}, #{name}"
      end
    end
  end
end
