# frozen_string_literal: true

module Web
  module Pages
    # A job that cannot be assessed: why, and its log, where the entry that does not fit can be withdrawn.
    class TroublePage < Page
      # An entry as it stands in the log: kind, what it holds, whether it can be withdrawn, and why it was.
      Row = Struct.new(:seq, :kind, :text, :at, :by, :withdrawable, :withdrawn, keyword_init: true)

      # trouble: Gadwall::Job::AssessmentError.
      def initialize(dossier, trouble, errors: {})
        super(dossier, errors: errors)
        @trouble = trouble
      end

      def stage
        "trace"
      end

      def sentence
        @trouble.message
      end

      def next_action
        "Withdraw the entry that does not fit"
      end

      # The stage bar without what needs a diagnosis.
      def stops
        []
      end

      def rows
        dossier.log.entries.reverse.map { |entry| row(entry) }
      end

      private

      MOST_LETTERS = 160

      def row(entry)
        back = dossier.log.withdrawal(entry.seq)
        text =
          entry.data.map { |name, value| "#{name} #{value.is_a?(String) ? value : JSON.generate(value)}" }.join(", ")
        Row.new(
          seq: entry.seq,
          kind: entry.kind.tr("_", " "),
          text: text.length > MOST_LETTERS ? "#{text[0, MOST_LETTERS]}…" : text,
          at: entry.at,
          by: entry.by,
          withdrawable: back.nil? && entry.withdrawable?,
          withdrawn: back&.reason
        ).freeze
      end
    end
  end
end
