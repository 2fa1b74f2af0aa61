# frozen_string_literal: true

module Gadwall
  module Repair
    # Judges what is entered for a step: its figures by their limits and against one another, its names, its ticks.
    class Figures
      REASON = "reason" # the entry that says why a figure differs from the manufacturer's
      MATCH = %w[old new reason].freeze
      WAY = "way" # which of the ways that are taught was taken

      # What an ask takes, in words.
      def self.limits(ask)
        low, high = ask.values_at("low", "high").map { |number| number == number.to_i ? number.to_i : number }
        case ask["sound"]
        when "above"
          "#{low} #{ask["unit"]} or more, or OL"
        when "below"
          "at most #{high} #{ask["unit"]}"
        else
          "a number from #{low} to #{high} #{ask["unit"]}"
        end
      end

      # step: Step.
      def initialize(step)
        @step = step
      end

      # values: {id => text typed}; ticked: ids. Returns {id => text} to be kept. Raises InputError that names the
      # figure, its limits and what to do.
      def entered(values, ticked)
        numbers = @step.asks.to_h { |ask| [ask["id"], number(ask, values[ask["id"]])] }
        @step.asks.each { |ask| compare(ask, numbers, values) }
        kept = @step.asks.to_h { |ask| [ask["id"], values[ask["id"]].to_s.strip] }
        @step.names.each { |each| kept[each["id"]] = name(each, values[each["id"]]) }
        missing = wanted - ticked
        raise unticked(missing) if missing.any?

        @step.compare.each { |line| kept.merge!(compared(line, values)) }
        kept.merge!(way(values))
        reason = values[REASON].to_s.strip
        reason.empty? ? kept : kept.merge(REASON => reason)
      end

      private

      # Ids that must be ticked: parts to renew, what is compared, conditions.
      def wanted
        @step.to_tick.map(&:first)
      end

      def unticked(missing)
        labels = @step.to_tick.to_h
        InputError.new(
          field: @step.title,
          given: "",
          expected: "a tick at '#{missing.map { |id| labels.fetch(id) }.join("', '")}'",
          fix: "Do it first, or mark the step as not needed with a reason where that can be."
        )
      end

      def number(ask, typed)
        figure = FigureText.read(typed, ask["unit"])
        return figure.value if figure&.within?(ask["low"], ask["high"], ask["sound"])

        given = figure&.value
        judged = given && (ask["judge"] || []).find { |row| given > row["from"] && given <= row["to"] }
        raise InputError.new(
                field: ask["label"],
                given: typed,
                expected: Figures.limits(ask),
                fix: judged ? judged["says"] : advice(ask)
              )
      end

      def advice(ask)
        return "Take it from the vehicle's own data." if ask["of"] == "maker"

        "Outside these limits do not go on: find out why."
      end

      def compare(ask, numbers, values)
        mine = numbers.fetch(ask["id"])
        if ask["same_as"] && mine != numbers.fetch(ask["same_as"])
          raise InputError.new(
                  field: ask["label"],
                  given: values[ask["id"]],
                  expected: "the same as '#{label(ask["same_as"])}' (#{values[ask["same_as"]]})",
                  fix: "A part with another count is the wrong part."
                )
        end
        worn(ask, mine, numbers, values) if ask["not_below"]
        differs(ask, mine, numbers, values) if ask["near"]
      end

      def worn(ask, mine, numbers, values)
        factor = ask["times"] || 1
        least = numbers.fetch(ask["not_below"]) * factor
        return if mine >= least

        times = "#{factor} #{ask["unit"]} for each of " if ask["times"]
        raise InputError.new(
                field: ask["label"],
                given: values[ask["id"]],
                expected: "at least #{times}'#{label(ask["not_below"])}' (#{values[ask["not_below"]]})",
                fix: "Below it do not go on: mend or renew it first."
              )
      end

      def differs(ask, mine, numbers, values)
        other = numbers.fetch(ask["near"])
        return if (mine - other).abs <= (ask["within"] * other.abs) + 1e-9 || !values[REASON].to_s.strip.empty?

        raise InputError.new(
                field: ask["label"],
                given: values[ask["id"]],
                expected: "within #{(ask["within"] * 100).round} % of '#{label(ask["near"])}' (#{values[ask["near"]]})",
                fix: "Put it right, or say why it differs."
              )
      end

      # Which of the ways that are taught was taken; the stricter one where nothing is said.
      def way(values)
        school = @step.school or return {}
        ways = [school["chosen"], *school["others"]]
        given = values[WAY].to_s.strip
        return { WAY => given.empty? ? ways.first : given } if given.empty? || ways.include?(given)

        raise InputError.new(field: school["question"], given: given, expected: "one of #{ways.join(", ")}")
      end

      # A line of a match card: what is noted of old and new, and why they differ.
      def compared(line, values)
        old, new, why = MATCH.map { |part| values["#{line["id"]}.#{part}"].to_s.strip }
        return {} if old.empty? && new.empty? && !line["needed"]

        problem = mismatch(line, old, new, why)
        raise problem if problem

        { "old" => old, "new" => new, "reason" => why }.reject { |_, text| text.empty? }
          .transform_keys { |part| "#{line["id"]}.#{part}" }
      end

      def mismatch(line, old, new, why)
        if old.empty? || new.empty?
          return InputError.new(field: line["label"], given: "", expected: "what stands on the old and on the new part")
        end
        return if same?(old, new) || !why.empty?

        InputError.new(
          field: line["label"],
          given: new,
          expected: "the same as on the old part (#{old})",
          fix: "It may be the wrong part: say why it fits all the same, or send it back."
        )
      end

      def same?(old, new)
        old.gsub(/[\s.-]/, "").casecmp?(new.gsub(/[\s.-]/, ""))
      end

      def label(id)
        @step.asks.find { |ask| ask["id"] == id }["label"]
      end

      def name(each, typed)
        text = Signature.trimmed(typed)
        return text if text.length.between?(1, 200) && text.match?(each["signs"] ? /\p{L}/ : /[\p{L}\p{N}]/)

        kind = each["signs"] ? "a name, with letters," : "a name or number"
        raise InputError.new(field: each["label"], given: typed, expected: "#{kind} of at most 200 letters")
      end
    end
  end
end
