# frozen_string_literal: true

module Web
  module Pages
    # After an exercise: the learner's way beside the advised one.
    class DebriefPage < Page
      # debrief: Gadwall::Training::Debrief.
      def initialize(dossier, debrief)
        super(dossier)
        @debrief = debrief
      end

      def title
        "#{number} · How it went"
      end

      def stage
        "debrief"
      end

      # Reads of the debrief that the page shows as they are.
      %i[score void parts truth wrong condemned forgotten lessons path advised danger?].each do |name|
        define_method(name) { @debrief.public_send(name) }
      end

      def ended
        @debrief.stand.ended
      end

      def minutes
        @debrief.stand.minutes.round
      end

      def money
        @debrief.stand.money
      end

      def hints
        @debrief.stand.hints
      end

      # Minutes of testing: his, and those of the advice.
      def test_minutes
        [path, advised].map { |rows| rows.sum(&:minutes).round }
      end

      # Width of a bar of bits, of a hundred.
      def bar(row)
        most = [*path, *advised].map(&:told).max.to_f
        most.positive? ? ([row.told, 0].max / most * 100).round : 0
      end
    end
  end
end
