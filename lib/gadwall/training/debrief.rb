# frozen_string_literal: true

module Gadwall
  module Training
    # After an exercise: what was done beside what was advised, what it told and cost, what was condemned without proof
    # or forgotten, and three sentences that teach.
    class Debrief
      # A test on the way. told: bits; text: of what was read.
      Row = Struct.new(:title, :typed, :minutes, :told, keyword_init: true)
      ENOUGH_BITS = 0.05 # a test that told less told nothing
      # Acts whose minutes are minutes of testing: the way to the test point and the test itself.
      HANDS = %w[key pedal chock lift stands lower wheel unplug plug safe meter scope clamp look wiggle test].freeze

      attr_reader :stand, :solution

      # stand: Stand that has ended; log: Job::Log of the exercise; solution: Solver::Solution of the same exercise;
      # rubric: Rubric that it is judged by.
      def initialize(stand, log, solution, rubric: Rubric.new)
        @stand = stand
        @log = log
        @solution = solution
        @rubric = rubric
      end

      # What was entered, test by test: Array of Row.
      def path
        @path ||=
          readings.each_with_index.map do |entry, i|
            circuit, test = system.test(entry.test)
            Row.new(
              title: "#{circuit.title}: #{test.title}",
              typed: entry.typed,
              minutes: minutes_of(i) || test.minutes,
              told: Training.told(assessed(i), assessed(i + 1)).round(2)
            ).freeze
          end
      end

      # What the advice would have done: Array of Row.
      def advised
        solution.steps.map do |step|
          Row.new(title: step.title, typed: step.typed, minutes: step.minutes, told: step.bits).freeze
        end
      end

      # 0 to 100.
      def score
        return 0 if void

        parts.sum(&:points)
      end

      # Why the parts do not count, in words, nil where they do.
      def void
        return "It ended where somebody could have been hurt: the rest does not count." if danger?

        "Handed back as it came in: the rest does not count." if untouched?
      end

      # How each part of the rubric came out: Array of Rubric::Part.
      def parts
        @parts ||= @rubric.judge(Conduct.new(self, @log, solution).counts)
      end

      # Was a place at least likely by all that had been read before an act? place: "circuit/place"; at: number of the
      # act, which comes after those before.
      def known?(place, at)
        read = readings.each_index.count { |i| (taken[i] || -1) < at }
        concluded = assessed(read).verdict.conclusions.reject { |each| each.state == "open" }
        concluded.any? { |each| each.suspect.places.include?(place) }
      end

      # Did it end where a hand was not safe?
      def danger?
        stand.ended && stand.ended.id != "handed_back"
      end

      # Was it handed back with all that was wrong still in it?
      def untouched?
        hidden = stand.vehicle.wiring.hidden.size
        hidden.positive? && hidden == stand.exercise.faults.size
      end

      # What was hidden, in words.
      def truth
        names = stand.exercise.faults.map { |id| fault_words(id) }
        names.empty? ? "Nothing was wrong any more." : "#{names.join("; ")}."
      end

      # Parts that were mended though sound, in words.
      def wrong
        stand.wrong
      end

      # Parts that were mended before the diagnosis had proven them: places in words.
      def condemned
        proven? ? [] : stand.wrong & module_like
      end

      # What was left undone: sentences.
      def forgotten
        rows = []
        rows << "A fault is still in the vehicle." if stand.vehicle.wiring.hidden.any?
        stand.owed.each { |word| rows << "Not done after the repair: #{word.tr("_", " ").sub(":", " ")}." }
        rows.concat(unproven)
        rows << "No scan of all modules before the work." unless scanned?
        rows << "The battery ran without support for #{stand.minutes.round} minutes." if flat?
        rows
      end

      # Three sentences.
      def lessons
        [stand.exercise.point, on_tests, on_repair].reject { |text| text.to_s.empty? }.first(3)
      end

      # Family of what was hidden, for the scores.
      def family
        id = (stand.exercise.faults + stand.exercise.was).first or return "none"
        system.circuit_named(id.split(".").first).family
      end

      # What proves a repair and was left out: sentences.
      def unproven
        return [] if stand.mended.empty?

        rows = []
        rows << "No test drive after the repair." unless after_repair?("drive") || @log.of("drive").any?
        unless after_repair?("read") || @log.of("scan").any?(&:after?)
          rows << "No scan of all modules after the repair."
        end
        rows
      end

      # Were all modules scanned, by the log or at the stand?
      def scanned?
        @log.scanned? || stand.done.any? { |each| each.kind == "read" }
      end

      # Was the battery run down?
      def flat?
        stand.battery_volt < Stand::FLAT_V
      end

      private

      # Was something done after the last part was repaired? kind: of Stand::KINDS.
      def after_repair?(kind)
        last = stand.done.rindex { |each| %w[mend step].include?(each.kind) } || -1
        stand.done.drop(last + 1).any? { |each| each.kind == kind }
      end

      # Minutes at the stand from the reading before to this one; nil where it was read elsewhere. index: of readings.
      def minutes_of(index)
        at = taken[index] or return
        from = (taken.first(index).compact.last || -1) + 1
        stand.done[from..at].select { |each| HANDS.include?(each.kind) }.sum(&:minutes)
      end

      # Place in Stand#done of every reading, nil where the stand did not give it.
      def taken
        @taken ||=
          readings.each_with_object([]) do |entry, found|
            from = (found.compact.last || -1) + 1
            found << (from...stand.done.size).find { |i| stand.done[i].test == entry.test }
          end
      end

      def system
        stand.system
      end

      def readings
        @readings ||= @log.valid_entries.select { |entry| entry.is_a?(Job::Entries::Observed) && !after?(entry) }
      end

      def after?(entry)
        entry.data["phase"] == "after"
      end

      # The diagnosis after so many readings.
      def assessed(count)
        (@assessed ||= {})[count] ||= begin
          kept = @log.entries.grep_v(Job::Entries::Observed) + readings.first(count)
          body = Job::Log.new(kept.sort_by(&:seq).select { |entry| evidence?(entry) }, system).body
          Diagnosis.assess(system, body)
        end
      end

      def evidence?(entry)
        entry.evidence? || %w[scan symptoms].include?(entry.kind)
      end

      def proven?
        return false unless @log.scanned?

        @proven ||= Diagnosis.assess(system, @log.body).verdict.proven?
      end

      def module_like
        stand.wrong.grep(/module|unit|sensor|switch|motor|pump/)
      end

      def fault_words(id)
        circuit, fault = system.fault(id.split(/[@~]/).first)
        "#{circuit.title}: #{fault.name}"
      end

      def on_tests
        return "You tested nothing; the advice needed #{solution.steps.size} tests." if path.empty?

        idle = path.count { |row| row.told < ENOUGH_BITS }
        said =
          idle.zero? ? "Each of your tests said something" : "#{idle} of your #{path.size} tests said next to nothing"
        best = solution.steps.max_by { |step| step.bits / [step.minutes, 0.5].max }
        best_words = best ? " The most for its minutes: #{best.title}." : ""
        "#{said}; you took #{path.size}, the advice #{solution.steps.size}.#{best_words}"
      end

      def on_repair
        return stand.ended.text if danger?
        return "Repaired though sound: #{wrong.join(", ")}. Prove a part before it is bought." if wrong.any?
        return forgotten.first if forgotten.any?

        "Every hidden fault was found, repaired and proven gone."
      end
    end
  end
end
