# frozen_string_literal: true

module Gadwall
  module Training
    module Acts
      # A step of the signed plan: what it does is done. words: Array of words; places: [[place, option], ...] of the
      # decision, where this step is the work itself.
      class Step < Act
        PREPARES = %w[zero prove chock].freeze # words of what is made safe

        # As of Act.
        def perform
          words = Array(given["words"])
          stand.spend(given["minutes"].to_f)
          words.each { |word| stand.make_safe(word) if PREPARES.include?(word.split(":").first) }
          stand.repairs.signed(words)
          stand.make_safe(Chock::WORD) if any?(words, "chock:")
          stand.lifted = true if any?(words, "lifts:")
          stand.lifted = false if any?(words, "lowers:")
          works = Array(given["places"]).map { |place, option| mended(place, option) }
          say(works.empty? ? given["title"].to_s : works.join(" "))
        end

        private

        def any?(words, prefix)
          words.any? { |word| word.start_with?(prefix) }
        end

        def mended(place, option)
          work = stand.repairs.work(place, option)
          stand.spend(*stand.repairs.cost(work))
          stand.repairs.mend(work, at: stand.done.size)
        end
      end
    end
  end
end
