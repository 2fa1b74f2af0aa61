# frozen_string_literal: true

module Web
  module Pages
    # What to do about the diagnosis: the options of the conclusion to be decided next, or what was signed, as it was
    # shown.
    class DecidePage < Page
      # An option as it is drawn. tags: [[text, warning?], ...]; parts: what the expected cost is made of, [[money,
      # words], ...]; plan: how long its plan is, in words, or nil.
      OptionRow =
        Struct.new(
          :id,
          :name,
          :note,
          :cost,
          :expected,
          :hours,
          :lead_time,
          :lasts,
          :tags,
          :risk,
          :back,
          :brings,
          :refused,
          :chosen,
          :parts,
          :plan,
          keyword_init: true
        )
      # Figures of "repair now, or test further?"; test: its title.
      Comparison = Struct.new(:replace_now, :test_first, :test, :break_even, :probability, :advice, keyword_init: true)
      STATES = { "open" => "undetermined", "likely" => "likely", "proven" => "proven" }.freeze

      def stage
        "decide"
      end

      # Is everything decided?
      def decided?
        dossier.decided?
      end

      # Can it be reopened, with a reason?
      def reopenable?
        decided? && !dossier.handed_over?
      end

      # What was signed so far: Array of Gadwall::Job::Snapshot.
      def signed
        dossier.decisions
      end

      def options
        @options ||= dossier.options
      end

      # "fault 1 of 2", or nil where there is one.
      def progress
        all = signed.size + dossier.open_offers.size
        return if all < 2

        decided? ? "#{all} faults" : "fault #{signed.size + 1} of #{all}"
      end

      # The conclusion on show: the one to be decided, or the last signed.
      def shown
        @shown ||= options ? current : past(signed.last)
      end

      # text, state, probability, why, missing ([[text, reason], ...]), comparison, options of a conclusion.
      Shown = Struct.new(:text, :state, :probability, :why, :missing, :comparison, :rows, keyword_init: true)

      # Today's assessment where it differs from what was signed.
      def differences
        dossier.differences
      end

      # Was the plan composed by rules that are not today's?
      def older_rules?
        decided? && !dossier.handed_over? && dossier.log.plan &&
          dossier.log.plan.rules != Gadwall::Repair::Composer.rules(catalogue)
      end

      private

      def current
        conclusion = options.conclusion
        Shown.new(
          text: conclusion.suspect.text,
          state: STATES.fetch(conclusion.state),
          probability: conclusion.probability,
          why: conclusion.why,
          missing: conclusion.missing.map { |gap| [gap.text, gap.reason] },
          comparison: comparison(options.comparison),
          rows: rows(options.choices, typed["option"])
        )
      end

      def past(snapshot)
        Shown.new(
          text: snapshot.text,
          state: STATES.fetch(snapshot.state),
          probability: snapshot.probability,
          why: snapshot.why,
          missing: snapshot.missing.map { |text| [text, nil] },
          comparison: nil,
          rows: rows(snapshot.choices, snapshot.entry.option)
        )
      end

      def rows(choices, chosen)
        marked = chosen.to_s.empty? ? choices.find(&:recommended)&.id : chosen
        choices.map do |choice|
          OptionRow.new(
            id: choice.id,
            name: choice.name,
            note: choice.note,
            cost: choice.cost,
            expected: choice.expected,
            hours: choice.hours,
            lead_time: choice.waiting_days.zero? ? "none" : "#{choice.waiting_days} d",
            lasts: choice.lasts,
            tags: tags(choice),
            risk: choice.risk,
            back: back(choice),
            brings: brings(choice),
            refused: choice.refused,
            chosen: choice.id == marked,
            parts: parts(choice),
            plan: plan(choice)
          )
        end
      end

      # What is added to the cost now; options that were signed before the parts were kept have none.
      def parts(choice)
        [[choice.if_wrong, "if it is not it"], [choice.if_again, "if it does not last"]].select do |amount, _|
          amount && !amount.zero?
        end
      end

      def plan(choice)
        return unless choice.hands_minutes

        waits = ", #{(choice.wait_minutes / 60.0).round(1)} h of waits" if choice.wait_minutes.positive?
        return "Its plan: #{choice.steps} steps#{waits}." unless choice.repair_hours

        beyond = (choice.hours - choice.repair_hours).round(1)
        "#{choice.repair_hours} h for the repair itself, #{beyond} h beyond it: scans, drive, what it brings along. " \
          "Its plan: #{choice.steps} steps#{waits}."
      end

      # What the supplier pays back for a part that was not needed, in words; nil without a part.
      def back(choice)
        return if choice.returned.nil? || choice.price.to_i.zero?

        choice.returned.zero? ? "No return" : "Returned unused: #{(choice.returned * 100).round} % of its price"
      end

      BROUGHT = {
        "bleeds:brakes" => "bleed the brakes",
        "near:high_voltage" => "isolate high voltage",
        "zero:accumulator" => "depressurise",
        "zero:air" => "empty the air",
        "near:airbag" => "airbag made safe",
        "write:coding" => "code",
        "write:trailer_parameters" => "write parameters",
        "learn:park_brake" => "calibrate the park brake",
        "learn:steering_angle" => "steering angle zero",
        "learn:yaw" => "yaw zero",
        "learn:pressure" => "pressure zero",
        "learn:pad_wear" => "wear reset",
        "test:end_of_line" => "end-of-line test",
        "opens:module_housing" => "module opened",
        "watch:days" => "watch for days",
        "match:part" => "match the part"
      }.freeze

      # What the composed plan of an option brings along, in words.
      def brings(choice)
        (choice.brings || []).filter_map { |word| BROUGHT[word] }.uniq
      end

      def tags(choice)
        tags = []
        tags << ["lowest expected cost", false] if choice.recommended
        tags << ["needs a signature", true] if choice.safety == "sign"
        tags << ["temporary", true] if choice.safety == "temporary"
        tags
      end

      def comparison(compared)
        return unless compared

        Comparison.new(
          **compared.to_h.slice(:replace_now, :test_first, :break_even, :probability, :advice),
          test: compared.test.test.title
        )
      end
    end
  end
end
