# frozen_string_literal: true

require "yaml"

module Gadwall
  module Knowledge
    # Reads one YAML file of records and checks what every record must have: an id that is not repeated, and a source.
    # A source is a text; it names a standard or handbook, or says 'common practice', 'from memory' or 'demo'.
    module Records
      SOURCE = /common practice|from memory|demo|handbook|ISO|SAE|UN R|FMVSS|IEC|IEEE|CFR|ETRTO/

      # path: a file with a list of records. Returns a frozen Array of frozen Hashes. Raises KnowledgeError.
      def self.list(path)
        records = load(path)
        fail!(path, "-", "-", "a list of records is expected") unless records.is_a?(Array)
        records.each { |record| check(path, record) }
        repeated =
          records.map { |record| record["key"] || [record["id"], record["each"]] }.tally.find { |_, count| count > 1 }
        fail!(path, repeated.first, "id", "stands twice") if repeated
        deep_freeze(records)
      end

      # path: a file with one record. Returns a frozen Hash.
      def self.one(path)
        record = load(path)
        check(path, record)
        deep_freeze(record)
      end

      def self.load(path)
        YAML.safe_load_file(path, aliases: true)
      rescue Psych::SyntaxError => error
        fail!(path, "line #{error.line}", "-", error.problem.to_s)
      end

      def self.check(path, record)
        fail!(path, "?", "id", "is missing") unless record.is_a?(Hash) && record["id"]
        check_source(path, record["id"], record)
        %w[values connectors sections monitors].each do |key|
          entries = record[key].is_a?(Hash) ? record[key].values : Array(record[key])
          entries.each { |entry| check_source(path, "#{record["id"]}.#{key}", entry) }
        end
      end

      def self.check_source(path, id, record)
        return if record["source"].is_a?(String) && record["source"].match?(SOURCE)

        fail!(
          path,
          id,
          "source",
          "is #{record["source"].inspect}; name a standard or handbook, or say 'common practice', 'from memory' or " \
            "'demo'"
        )
      end

      def self.fail!(path, record, key, problem)
        raise KnowledgeError.new(file: path.delete_prefix("#{ROOT}/"), record: record, key: key, problem: problem)
      end

      def self.deep_freeze(value)
        case value
        when Hash
          value.each_value { |entry| deep_freeze(entry) }
        when Array
          value.each { |entry| deep_freeze(entry) }
        end
        value.freeze
      end
      private_class_method :load, :check, :check_source, :fail!, :deep_freeze
    end
  end
end
