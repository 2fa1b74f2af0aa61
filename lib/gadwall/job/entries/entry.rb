# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # What all entries share: who wrote it, when, as which of the log, and the data that its kind holds. Frozen.
      #
      # A subclass names KIND and VERSION (the newest that it reads), checks its data in `check`, and gives it readers.
      class Entry
        STAMPS = %w[kind version seq at by].freeze
        PHASES = %w[before after].freeze
        SIMULATED = "simulated"
        ORIGINS = ["hand", "interface", SIMULATED].freeze

        # data: a frozen Hash with String keys, without the stamps; seq: Integer or nil before it is written; at: ISO
        # 8601 text or nil; by: who, or nil.
        attr_reader :kind, :version, :seq, :at, :by, :data

        # hash: as in a case file. Raises InputError that names the field.
        def initialize(hash)
          @kind = hash["kind"] || self.class::KIND
          @version = (hash["version"] || 1).to_i
          @seq = hash["seq"]
          @at = hash["at"]
          @by = hash["by"]
          @data = hash.except(*STAMPS).freeze
          one_of!("origin", ORIGINS, optional: true)
          check
          freeze
        end

        # The same entry with its place in the log. Returns a copy.
        def stamped(seq:, at:, by:)
          dup.tap do |copy|
            copy.instance_variable_set(:@seq, seq)
            copy.instance_variable_set(:@at, at)
            copy.instance_variable_set(:@by, by)
            copy.freeze
          end
        end

        # As in a case file. A version of 1 is not written.
        def to_h
          stamps = { "seq" => seq, "kind" => kind, "version" => (version if version > 1), "at" => at, "by" => by }
          stamps.compact.merge(data)
        end

        # A field of its data, or nil.
        def [](name)
          data[name]
        end

        # Was it written after the repair?
        def after?
          data["phase"] == "after"
        end

        # Where what it says comes from: "hand" (somebody's own eyes and meter), "interface" (a diagnostic interface),
        # or "simulated" (a simulated vehicle: never a customer's).
        def origin
          data["origin"] || (data["via"] == "interface" ? "interface" : "hand")
        end

        # Does it speak of a simulated vehicle?
        def simulated?
          origin == SIMULATED
        end

        # The same entry as it comes from elsewhere. origin: of ORIGINS. Returns a copy, not stamped yet.
        def from(origin)
          dup.tap do |copy|
            copy.instance_variable_set(:@data, data.merge("origin" => origin).freeze)
            copy.freeze
          end
        end

        # Does the diagnosis use it?
        def evidence?
          false
        end

        # May it be taken back, with a reason?
        def withdrawable?
          false
        end

        # Equal by what it says.
        def ==(other)
          other.is_a?(Entry) && to_h == other.to_h
        end
        alias eql? ==

        # As `==`.
        def hash
          to_h.hash
        end

        private

        def check
        end

        # Raises InputError unless `name` holds a text of 1 to `most` letters.
        def text!(name, most, expected)
          given = data[name]
          return if given.is_a?(String) && given.strip.length.between?(1, most)

          fault!(name, given, expected)
        end

        # Raises InputError unless `name` is absent or a text.
        def text_or_nothing!(name, most)
          given = data[name]
          return if given.nil? || (given.is_a?(String) && given.length <= most)

          fault!(name, given, "a text of at most #{most} letters")
        end

        def one_of!(name, allowed, optional: false)
          return if (optional && data[name].nil?) || allowed.include?(data[name])

          fault!(name, data[name], "one of #{allowed.join(", ")}")
        end

        def list!(name, optional: true)
          return if (optional && data[name].nil?) || data[name].is_a?(Array)

          fault!(name, data[name], "a list")
        end

        def fault!(name, given, expected)
          raise InputError.new(field: name, given: given, expected: expected)
        end
      end
    end
  end
end
