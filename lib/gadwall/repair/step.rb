# frozen_string_literal: true

module Gadwall
  module Repair
    # One step of a plan, as it stands in the plan that is signed. Frozen.
    #
    # hold: must be signed before the next opens; wait_minutes: of its timer, or nil; asks: {"unit", "label", "low",
    # "high"} of the figure to be entered, or nil; caution: text or nil; because: the words that asked for it.
    Step =
      Struct.new(:id, :title, :text, :hold, :wait_minutes, :asks, :caution, :because, keyword_init: true) do
        # row: of data/repairs/steps.yml; words: those that hold for this repair; catalogue: for the cautions.
        def self.of(row, words, catalogue)
          new(
            id: row["id"],
            title: row["title"],
            text: row["text"],
            hold: row["hold"],
            wait_minutes: row["wait_minutes"],
            asks: row["asks"],
            caution: row["caution"] && catalogue.cautions.dig(row["caution"], "text"),
            because: ((row["when"] || []) + (row["any"] || [])) & words
          ).freeze
        end

        # hash: as `to_h` wrote it, String keys.
        def self.from_h(hash)
          new(**hash.slice(*members.map(&:to_s)).transform_keys(&:to_sym)).freeze
        end

        # For the log: String keys, what is nil left out.
        def to_entry
          to_h.compact.transform_keys(&:to_s)
        end

        # The figure as it is to be kept. typed: what was entered. Raises InputError that names the figure and its
        # limits.
        def figure(typed)
          text = typed.to_s.strip
          return text unless asks

          number = Float(text.tr(",", "."), exception: false)
          low, high = asks.values_at("low", "high")
          return text if number&.between?(low, high)

          raise InputError.new(
                  field: asks["label"],
                  given: typed,
                  expected: "a number from #{low} to #{high} #{asks["unit"]}",
                  fix: "Take it from the vehicle's own data or the meter; outside these limits do not go on."
                )
        end
      end
  end
end
