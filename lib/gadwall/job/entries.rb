# frozen_string_literal: true

module Gadwall
  module Job
    # What stands in the log of a job: one frozen class for each kind of entry, each in a file of its own. An entry of a
    # kind or version that is not known here is kept and shown as it is (Unknown), never lost.
    module Entries
      # In the order in which a job meets them.
      CLASSES = [
        Symptoms,
        Promise,
        Sheet,
        Scan,
        ScanSkipped,
        Reading,
        Finding,
        Lamps,
        Presence,
        Pads,
        Access,
        Withdraw,
        Decision,
        Plan,
        Reopen,
        Step,
        SetUp,
        Parameters,
        DriveLog,
        Drive,
        Handover,
        Note,
        Comeback,
        WatchResult
      ].freeze
      BY_KIND = CLASSES.to_h { |entry| [entry::KIND, entry] }.freeze
      KINDS = BY_KIND.keys.freeze

      # hash: an entry as in a case file, String keys: "kind", "version" (1 where it says none), "seq", "at", "by" and
      # what the kind holds. Returns an Entry. Raises InputError that names the field of a known kind which cannot be
      # used.
      def self.from_h(hash)
        known = BY_KIND[hash["kind"]]
        return Unknown.new(hash) unless known && (hash["version"] || 1).to_i.between?(1, known::VERSION)

        known.new(hash)
      end

      # The same for what is stored already: what cannot be used any more is kept as Unknown, with the reason.
      def self.stored(hash)
        from_h(hash)
      rescue InputError => error
        Unknown.new(hash, error.message)
      end
    end
  end
end
