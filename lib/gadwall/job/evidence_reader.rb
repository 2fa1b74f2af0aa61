# frozen_string_literal: true

module Gadwall
  module Job
    # Reads the entries of a log into the core values that the diagnosis takes (Evidence).
    class EvidenceReader
      # An error told at its place in the log: "evidence 3, test: ...".
      def self.located(error, seq)
        return error if error.field.start_with?("evidence")

        InputError.new(
          field: "evidence #{seq}, #{error.field}",
          given: error.given,
          expected: error.expected,
          fix: error.fix
        )
      end

      # log: Log.
      def initialize(log)
        @log = log
        @codes = TroubleCodes::CodeReader.new(log.system.sheet, log.system.catalogue)
      end

      # Observations::Body of everything seen before the repair. Raises InputError that names the entry.
      def body
        before = @log.valid_entries.select(&:evidence?)
        seen = before.select { |entry| entry.respond_to?(:test) }.map { |entry| observation(entry) }
        observations = Observations::Changes.told(SharedLooks.spread(seen, @log.system))
        Observations::Body.new(
          observations: observations,
          scans: before.grep(Entries::Scan).map { |entry| scan(entry) },
          symptoms: symptoms(before.grep(Entries::Symptoms)),
          open_access: open_access(before, observations),
          closed_case_counts: @log.shop_cases? ? @log.closed_case_counts : {},
          lamps: lamps(before.grep(Entries::Lamps)),
          presence: before.grep(Entries::Presence).last&.fault,
          triage: before.grep(Entries::Symptoms).flat_map(&:triage).uniq
        )
      end

      # Keys of what is open since the tests, of what was said to be opened too. An entry that cannot be read opened
      # nothing.
      def open_now
        before = @log.valid_entries.select(&:evidence?)
        open_access(before, before.select { |entry| entry.respond_to?(:test) }.filter_map { |entry| reach(entry) })
      end

      # entry: Entries::Reading or ::Finding. Returns an Observations::Observation. Raises InputError.
      def observation(entry)
        circuit, test = @log.system.test(entry.test)
        result = entry.result || Observations::Result.of(test, entry.typed)
        Observations::Observation.new(
          seq: entry.seq,
          circuit: circuit,
          test: test,
          result: result,
          typed: test.numeric? ? result.to_s : test.outcomes.fetch(result),
          condition: condition(entry),
          presence: entry["fault"] || said_before(entry.seq),
          caught: test.numeric? ? nil : entry.caught
        ).freeze
      rescue InputError => error
        raise self.class.located(error, entry.seq)
      end

      # entry: Entries::Scan. Returns an Observations::Scan in which each code stands once: a tool that prints a line
      # eighty times has seen the code once. Raises InputError.
      def scan(entry)
        codes = entry.codes.uniq.map { |row| @codes.read(row, seq: entry.seq) }
        Observations::Scan.new(
          seq: entry.seq,
          answered: answered(entry.modules, codes),
          codes: once(codes),
          responded: entry.responded,
          expected: entry.expected,
          strangers: entry.modules.count { |row| row["answered"] == false && module_id(row["name"]).nil? }
        ).freeze
      rescue InputError => error
        raise self.class.located(error, entry.seq)
      end

      private

      # What a test reached, whatever it showed.
      Reach = Struct.new(:seq, :circuit, :test)

      def reach(entry)
        Reach.new(entry.seq, *@log.system.test(entry.test))
      rescue InputError
        nil
      end

      STRENGTH = ["current", nil, "pending", "history", "not_tested", "passed"].freeze

      # One of each code, with the strongest status that it was seen with.
      def once(codes)
        codes
          .group_by { |code| [code.word, code.circuit_id, code.claim, code.sender] }
          .values
          .map { |same| same.min_by { |code| STRENGTH.index(code.status) } }
      end

      # What was said last of the fault before an entry: of Observations::PRESENCES, or nil.
      def said_before(seq)
        @said ||= @log.valid_entries.grep(Entries::Presence)
        @said.reverse.find { |entry| entry.seq < seq }&.fault
      end

      # Of each lamp what was said last: Array of Observations::Lamp.
      def lamps(entries)
        said =
          entries.each_with_object({}) do |entry, known|
            entry.lit.each { |id, time| known[id] = lamp(entry, id, true, time) }
            entry.out.each { |id| known[id] = lamp(entry, id, false, nil) }
          end
        said.values
      end

      def lamp(entry, id, lit, time)
        known = @log.system.catalogue.lamps
        return Observations::Lamp.new(seq: entry.seq, id: id, lit: lit, time: time).freeze if known.key?(id)

        raise self.class.located(UnknownNameError.new(field: "lamp", given: id, known: known.keys), entry.seq)
      end

      def condition(entry)
        given = entry.condition
        return nil if given.nil? || given == ""
        return given if Observations::CONDITIONS.key?(given)

        raise UnknownNameError.new(field: "condition", given: given, known: Observations::CONDITIONS.keys)
      end

      # {module id => did it answer}: by any name that says so; and who sent codes of its own has answered.
      def answered(modules, codes)
        noted =
          modules.each_with_object({}) do |row, found|
            id = module_id(row["name"]) or next
            found[id] = row["answered"] != false
          end
        circuits = @log.system.circuits
        senders = codes.filter_map { |code| circuits.find { |circuit| circuit.id == code.circuit_id }&.module }
        senders.uniq.to_h { |id| [id, true] }.merge(noted)
      end

      def module_id(name)
        TroubleCodes::ModuleName.find(name.to_s, @log.system.catalogue)
      end

      def symptoms(entries)
        entries.flat_map { |entry| entry.ids.map { |id| symptom(entry, id) } }.uniq(&:id)
      end

      def symptom(entry, id)
        known = @log.system.catalogue.symptoms
        return Observations::Symptom.new(seq: entry.seq, id: id).freeze if known.key?(id)

        raise self.class.located(UnknownNameError.new(field: "symptom", given: id, known: known.keys), entry.seq)
      end

      # Reached by a test or said to be open, until said to be closed.
      def open_access(entries, observations)
        by_seq = observations.to_h { |observation| [observation.seq, observation] }
        entries
          .each_with_object([]) do |entry, open|
            if (observation = by_seq[entry.seq])
              reached(observation, open)
            elsif entry.is_a?(Entries::Access)
              open.concat(entry.opened)
              entry.closed.each { |key| open.delete(key) }
            end
          end
          .uniq
      end

      def reached(observation, open)
        open.concat(Observations::Access.keys_of(observation))
        observation.test.closes.each { |key| open.delete(Observations::Access.key_for(observation.circuit.id, key)) }
      end
    end
  end
end
