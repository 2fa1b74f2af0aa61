# frozen_string_literal: true

module Gadwall
  module Job
    # The append-only log of a job. It only grows: a "withdraw" entry takes back an earlier one, a "reopen" entry the
    # decisions before it.
    class Log
      # entries: Array of Entries::Entry in log order; system: Vehicle::System; closed_case_counts: what the workshop
      # had learned when the vehicle came in (Observations::Body).
      attr_reader :entries, :system, :closed_case_counts

      # entries: Array of Hash as in a case file, or of Entry; each gets its place in the log, "seq", where it has none.
      # Raises InputError that names the entry, for a withdrawal of what does not exist too.
      def initialize(entries, system, closed_case_counts: {})
        @system = system
        @closed_case_counts = closed_case_counts
        @entries = entries.each_with_index.map { |entry, i| placed(entry, i + 1) }.freeze
        @withdrawals = withdrawals.freeze
        @reader = EvidenceReader.new(self)
        freeze
      end

      # The log with more entries at its end. Returns a Log.
      def with(more, system: @system)
        Log.new(entries + more, system, closed_case_counts: closed_case_counts)
      end

      # Entries that count: not withdrawn, and no withdrawals themselves.
      def valid_entries
        entries.reject { |entry| entry.is_a?(Entries::Withdraw) || @withdrawals.key?(entry.seq) }
      end

      # The Withdraw entry of an entry, or nil. seq: Integer.
      def withdrawal(seq)
        @withdrawals[seq]
      end

      # Valid entries of a kind. kind: one of Entries::KINDS.
      def of(kind)
        valid_entries.select { |entry| entry.kind == kind }
      end

      # seq of the last entry, 0 for none.
      def last_seq
        entries.last&.seq || 0
      end

      # -- how far the work is, told by the entries alone

      # Decisions that count: those after the last time the diagnosis was reopened.
      def decisions
        since_reopened.grep(Entries::Decision)
      end

      # The plan that is being worked on, or nil.
      def plan
        since_reopened.reverse.find { |entry| entry.is_a?(Entries::Plan) }
      end

      # Steps begun and signed, whenever that was.
      def steps
        of(Entries::Step::KIND)
      end

      # Does any entry speak of a simulated vehicle?
      def simulated?
        entries.any?(&:simulated?)
      end

      # Is there a pre-scan, or a reason why there is none?
      def scanned?
        valid_entries.any? do |entry|
          (entry.is_a?(Entries::Scan) && !entry.after?) || entry.is_a?(Entries::ScanSkipped)
        end
      end

      # Was the vehicle handed over?
      def handed_over?
        of(Entries::Handover::KIND).any?
      end

      # Why the vehicle must stay: ids of Triage, as said at intake and since.
      def triage
        of(Entries::Symptoms::KIND).flat_map(&:triage).uniq
      end

      # -- what the diagnosis is made of

      # Observations::Body of everything seen before the repair. Raises InputError that names the entry which does not
      # fit.
      def body
        @reader.body
      end

      # Keys of what the trace left open: ["front_left/wheel_off", ...].
      def open_now
        @reader.open_now
      end

      # A reading or a finding as an Observations::Observation. Raises InputError with the entry's place in the log.
      def observation(entry)
        @reader.observation(entry)
      end

      # A scan as an Observations::Scan. Raises InputError likewise.
      def scan(entry)
        @reader.scan(entry)
      end

      # Are the workshop's closed cases counted? Until somebody says that this vehicle is not like them.
      def shop_cases?
        of(Entries::Symptoms::KIND).all?(&:shop_cases?)
      end

      # Short: an error message must not print every entry.
      def inspect
        "#<#{self.class} #{entries.size} entries>"
      end

      private

      def placed(entry, seq)
        return entry if entry.is_a?(Entries::Entry) && entry.seq

        hash = { "seq" => seq }.merge(entry.to_h)
        entry.is_a?(Entries::Entry) ? entry.stamped(seq: seq, at: entry.at, by: entry.by) : Entries.from_h(hash)
      rescue InputError => error
        raise EvidenceReader.located(error, seq)
      end

      def since_reopened
        valid = valid_entries
        last = valid.rindex { |entry| entry.is_a?(Entries::Reopen) }
        last ? valid.drop(last + 1) : valid
      end

      def withdrawals
        numbers = entries.map(&:seq)
        entries
          .grep(Entries::Withdraw)
          .to_h do |entry|
            unless numbers.include?(entry.entry)
              raise InputError.new(
                      field: "evidence #{entry.seq}, entry",
                      given: entry.entry,
                      expected: "the number of an entry in this log"
                    )
            end
            [entry.entry, entry]
          end
      end
    end
  end
end
