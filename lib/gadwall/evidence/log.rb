# frozen_string_literal: true

module Gadwall
  module Evidence
    # The append-only log of a job, read into core values. Entries are Hashes with String keys, as in a case file:
    #   {"kind" => "reading", "test" => "front_left.resistance.sensor_plug", "reading" => "OL"}
    # Each has a place in the log, "seq" (1, 2, ... when absent). A "withdraw" entry takes back an earlier one.
    class Log
      DIAGNOSTIC = %w[symptoms scan reading finding access].freeze

      attr_reader :entries, :system, :closed_case_counts

      # entries: Array of Hash; system: Vehicle::System; closed_case_counts: the shop's closed cases (Body). Raises
      # InputError that names the entry.
      def initialize(entries, system, closed_case_counts: {})
        @system = system
        @closed_case_counts = closed_case_counts
        @entries = entries.each_with_index.map { |entry, i| { "seq" => i + 1 }.merge(entry) }.freeze
        @withdrawn = withdrawals
        freeze
      end

      # Entries that stand: not withdrawn, and no withdrawals themselves.
      def valid_entries
        entries.reject { |entry| entry["kind"] == "withdraw" || @withdrawn.key?(entry["seq"]) }
      end

      # The withdraw entry of an entry, or nil.
      def withdrawal(seq)
        @withdrawn[seq]
      end

      def of(kind)
        valid_entries.select { |entry| entry["kind"] == kind }
      end

      # What the diagnosis is made of: everything seen before the repair.
      def body
        before = valid_entries.reject { |entry| entry["phase"] == "after" }
        observations =
          before.select { |entry| %w[reading finding].include?(entry["kind"]) }.map { |entry| observation(entry) }
        Body.new(
          observations: observations,
          scans: of_kind(before, "scan").map { |entry| scan(entry) },
          symptoms: symptoms(before),
          open_access: open_access(before, observations),
          closed_case_counts: shop_cases? ? @closed_case_counts : {}
        )
      end

      # Are the shop's closed cases counted? Until somebody says that this vehicle is not like them.
      def shop_cases?
        of("symptoms").none? { |entry| entry["shop_cases"] == false }
      end

      # An entry as an Observation. Raises InputError with the entry's place in the log.
      def observation(entry)
        circuit, test = system.test(entry["test"])
        typed = (entry["reading"] || entry["result"]).to_s
        Observation.new(
          seq: entry["seq"],
          circuit: circuit,
          test: test,
          result: Result.of(test, typed),
          typed: said(test, typed),
          condition: condition(entry)
        ).freeze
      rescue InputError => error
        raise located(error, entry)
      end

      def scan(entry)
        reader = Codes::CodeReader.new(system.sheet, system.catalogue)
        codes = (entry["codes"] || []).map { |row| reader.read(row, seq: entry["seq"]) }
        Scan.new(seq: entry["seq"], answered: answered(entry["modules"] || [], codes), codes: codes).freeze
      rescue InputError => error
        raise located(error, entry)
      end

      private

      def of_kind(list, kind)
        list.select { |entry| entry["kind"] == kind }
      end

      def withdrawals
        entries
          .select { |entry| entry["kind"] == "withdraw" }
          .to_h do |entry|
            unless entries.any? { |other| other["seq"] == entry["entry"] }
              raise InputError.new(
                      field: "evidence #{entry["seq"]}, entry",
                      given: entry["entry"],
                      expected: "the number of an entry in this log"
                    )
            end
            [entry["entry"], entry]
          end
      end

      def condition(entry)
        given = entry["condition"]
        return nil if given.nil? || given == ""
        return given if CONDITIONS.key?(given)

        raise UnknownNameError.new(field: "condition", given: given, known: CONDITIONS.keys)
      end

      def said(test, typed)
        return Result.of(test, typed).to_s if test.numeric?

        test.outcomes.fetch(Result.of(test, typed))
      end

      # {module id => did it answer}: by any name that says so; and who sent codes of its own has answered.
      def answered(modules, codes)
        noted =
          modules.each_with_object({}) do |row, found|
            id = Codes::ModuleName.find(row["name"].to_s, system.catalogue) or next
            found[id] = row["answered"] != false
          end
        senders = codes.filter_map { |code| system.circuits.find { |circuit| circuit.id == code.circuit_id }&.module }
        senders.uniq.to_h { |id| [id, true] }.merge(noted)
      end

      def symptoms(list)
        of_kind(list, "symptoms")
          .flat_map do |entry|
            (entry["ids"] || []).map do |id|
              unless system.catalogue.symptoms.key?(id)
                raise located(
                        UnknownNameError.new(field: "symptom", given: id, known: system.catalogue.symptoms.keys),
                        entry
                      )
              end
              Symptom.new(seq: entry["seq"], id: id).freeze
            end
          end
          .uniq(&:id)
      end

      # Reached by a test or said to be open, until said to be closed.
      def open_access(list, observations)
        by_seq = observations.to_h { |observation| [observation.seq, observation] }
        list
          .each_with_object([]) do |entry, open|
            if (observation = by_seq[entry["seq"]])
              open.concat(Access.keys_of(observation))
              observation.test.closes.each { |key| open.delete(Access.key_for(observation.circuit.id, key)) }
            elsif entry["kind"] == "access"
              open.concat(entry["opened"] || [])
              (entry["closed"] || []).each { |key| open.delete(key) }
            end
          end
          .uniq
      end

      def located(error, entry)
        return error if error.field.start_with?("evidence")

        InputError.new(
          field: "evidence #{entry["seq"]}, #{error.field}",
          given: error.given,
          expected: error.expected,
          fix: error.fix
        )
      end
    end
  end
end
