# frozen_string_literal: true

module Gadwall
  module TroubleCodes
    # What a diagnostic interface read of a vehicle that nobody knows beforehand, as Job::Acts::KeepScan takes it:
    # modules by the names that they give themselves, codes with their status bytes.
    module InterfaceScan
      # reads: Array of answers of modules, each with request_id, codes ([[CodeWord, StatusByte], ...]) and identifiers
      # ({"name" => text, ...}), as Instruments::DiagnosticInterface::Read; expected: ids of modules that the vehicle's
      # circuits name; whole: did the scan come to its end, so that who is missing is silent?; catalogue. Returns
      # {codes:, modules:, responded:, expected:}.
      def self.values(reads, expected:, whole:, catalogue:)
        named = reads.to_h { |read| [read, name(read)] }
        known = named.transform_values { |text| ModuleName.find(text, catalogue) }
        silent = whole ? expected - known.values : []
        {
          codes: reads.flat_map { |read| codes(read, named.fetch(read)) },
          modules: named.values.map { |text| row(text, true) } + silent.map { |id| row(title(id, catalogue), false) },
          responded: reads.size,
          expected: (reads.size + silent.size if whole)
        }
      end

      # As it calls itself, else by the id of its requests: "module 7E0".
      def self.name(read)
        said = read.identifiers["name"].to_s.gsub(/[^[:print:]]/, "").strip
        said.empty? ? format("module %03X", read.request_id) : said
      end

      def self.codes(read, name)
        read.codes.map do |word, status|
          {
            "code" => word.text,
            "failure_type" => word.failure_type,
            "status" => format("%02X", status.value),
            "module" => name,
            "text" => ""
          }.compact
        end
      end

      def self.row(name, answered)
        { "name" => name, "answered" => answered }
      end

      def self.title(id, catalogue)
        id == "abs" ? "ABS" : catalogue.modules.dig(id, "name") || id
      end
      private_class_method :name, :codes, :row, :title
    end
  end
end
