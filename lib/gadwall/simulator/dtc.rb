# frozen_string_literal: true

module Gadwall
  module Simulator
    # One code of a module with its status byte, bit by bit as its monitor runs (ISO 14229-1 Annex D, from memory).
    class Dtc
      FAILED = 0x01
      FAILED_THIS_CYCLE = 0x02
      PENDING = 0x04
      CONFIRMED = 0x08
      NOT_COMPLETED_SINCE_CLEAR = 0x10
      FAILED_SINCE_CLEAR = 0x20
      NOT_COMPLETED_THIS_CYCLE = 0x40
      WARNING = 0x80
      CLEARED = NOT_COMPLETED_SINCE_CLEAR | NOT_COMPLETED_THIS_CYCLE
      AGES_AFTER = 40 # common practice: a confirmed code without failure is gone after some 40 cycles

      # word: TroubleCodes::CodeWord; status: Integer; snapshot: {text => number} of when it first failed, or nil;
      # occurrences: how often it began to fail since it was cleared; clean_cycles: without a failure, on the way to be
      # forgotten; of: [circuit, claim] that its monitor speaks of.
      attr_reader :word, :status, :snapshot, :occurrences, :clean_cycles, :of

      def initialize(word, of: [])
        @word = word
        @of = of
        clear
      end

      # Its three bytes: code and failure type.
      def bytes
        bytes = word.bytes
        bytes.size == 3 ? bytes : [*bytes, 0x00]
      end

      # Its monitor ran. failed: true or false; lamp: does it ask for a warning lamp?; now: {text => number} that is
      # frozen at the first failure.
      def ran(failed, lamp: true, now: {})
        @status &= ~CLEARED
        return pass unless failed

        @snapshot ||= now
        @occurrences += 1 unless bit?(FAILED)
        @status |= FAILED | FAILED_THIS_CYCLE | PENDING | CONFIRMED | FAILED_SINCE_CLEAR
        @status |= WARNING if lamp
        @clean_cycles = 0
      end

      # A new operation cycle begins: what failed in none of the last is no longer pending, and ages.
      def new_cycle
        failed = bit?(FAILED_THIS_CYCLE)
        completed = !bit?(NOT_COMPLETED_THIS_CYCLE)
        @status &= ~PENDING if completed && !failed
        @clean_cycles = failed ? 0 : @clean_cycles + 1 if completed
        @status &= ~(CONFIRMED | WARNING) if @clean_cycles >= AGES_AFTER
        @status = (@status & ~FAILED_THIS_CYCLE) | NOT_COMPLETED_THIS_CYCLE
      end

      # Erased by the tool.
      def clear
        @status = CLEARED
        @snapshot = nil
        @clean_cycles = 0
        @occurrences = 0
      end

      # Is a bit set? mask: Integer.
      def bit?(mask)
        status.anybits?(mask)
      end

      private

      def pass
        @status &= ~FAILED
        @status &= ~WARNING unless bit?(CONFIRMED)
      end
    end
  end
end
