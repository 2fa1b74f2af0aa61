# frozen_string_literal: true

module Gadwall
  module Job
    # A verb of the work, done to a job: pure, from the dossier and what was entered to the entries that it adds to the
    # log, or to refusals that name the field and say what to do. The only way in which a log grows.
    #
    # A subclass says in one place when it may be done (`closed`), checks what was entered (`check`, with `refuse`), and
    # makes its entries (`entries`). Most say in `closed` one of `after_decision`, `before_decision`, `after_handover`.
    class Act
      # What came of an act. entries: Array of Entries::Entry, not stamped; vehicle: Hash of the sheet where it changes
      # it, or nil; promised_at: ISO 8601 text where it changes it, or nil; errors: {field => sentence}; closed: why the
      # act may not be done now, or nil.
      Outcome =
        Struct.new(:entries, :vehicle, :promised_at, :errors, :closed, keyword_init: true) do
          # Was the act made?
          def ok?
            closed.nil? && errors.empty?
          end
        end

      # dossier: Dossier; values: what was entered, by Symbol; by: who; at: Time. Returns an Outcome.
      def self.call(dossier, values = {}, by:, at:)
        new(dossier, values, by, at).outcome
      end

      def initialize(dossier, values, by, at)
        @dossier = dossier
        @values = values
        @by = by
        @at = at
        @errors = {}
      end

      # Checks the act and makes its entries. Returns an Outcome.
      def outcome
        why = closed
        return Outcome.new(entries: [], errors: {}, closed: why).freeze if why

        check
        return Outcome.new(entries: [], errors: @errors.freeze).freeze if @errors.any?

        made = entries
        return Outcome.new(entries: [], errors: @errors.freeze).freeze if @errors.any?

        Outcome.new(entries: made, vehicle: vehicle, promised_at: promised_at, errors: {}.freeze).freeze
      end

      private

      attr_reader :dossier, :values, :by, :at

      def log
        dossier.log
      end

      # Why it may not be done now, or nil.
      def closed
        nil
      end

      # Fills the errors.
      def check
      end

      # Array of Entries::Entry.
      def entries
        []
      end

      def vehicle
        nil
      end

      def promised_at
        nil
      end

      def refuse(field, sentence)
        @errors[field.to_s] ||= sentence
      end

      # What was entered, trimmed of all that cannot be seen. "" where nothing was.
      def text(name)
        Signature.trimmed(values[name])
      end

      # A name that somebody signs with.
      def signature(name, sentence, most: Signature::MOST_LETTERS)
        required(name, sentence, most: most)
        refuse(name, "#{sentence} A name has letters.") unless text(name).empty? || Signature.of(text(name))
      end

      def required(name, sentence, most: 1000)
        given = text(name)
        return refuse(name, sentence) if given.empty?

        refuse(name, "#{given.length} letters; at most #{most}. Shorten it.") if given.length > most
      end

      # -- when an act may be done

      def after_handover
        return unless dossier.handed_over?

        "#{dossier.number} is handed over. Only notes, comebacks and watch results are added to it now."
      end

      # The search is closed by a decision until it is reopened.
      def after_decision
        return after_handover if dossier.handed_over?
        return unless dossier.decided?

        "Diagnosis closed: a repair is authorised for #{dossier.number}. Enter readings after the repair " \
          "under Verify, or reopen the diagnosis with a reason under Decide."
      end

      def before_decision
        return after_handover if dossier.handed_over?
        return if dossier.decided?

        "No repair is authorised for #{dossier.number} yet. Decide first."
      end

      def before_drive
        refused = before_decision
        return refused if refused || dossier.plan.done?

        "Sign the steps of the repair first: the road test belongs after them."
      end
    end
  end
end
