# frozen_string_literal: true

module Gadwall
  module CLI
    # Modules and codes out of a file: a bus log or a code list. Two of them can be compared.
    class ScanFile
      LOG = /\A\s*\(\d/

      # path: of the file. Raises InputError.
      def self.read(path)
        InputFile.open(path) do |io|
          first = TextLines.first(io)
          if first.strip.empty? && io.eof?
            raise InputError.new(field: "file", given: File.basename(path), expected: EMPTY)
          end

          if first.match?(LOG)
            new(*of_log(Protocols::ScanLog.read(io)))
          else
            new(of_list(TroubleCodes::CodeList.read(io.read(MOST_BYTES + 1).to_s)), [], [])
          end
        end
      end

      # text: of a bus log. Raises InputError.
      def self.of_text(text)
        new(*of_log(Protocols::ScanLog.read(text)))
      end

      EMPTY = "a bus log or a DTC list: this file is empty"
      MOST_BYTES = 20_000_000
      # ISO 15765-4: the first two addresses belong to the engine and the gearbox; from memory.
      KNOWN = { 0x7E0 => "engine", 0x7E1 => "gearbox" }.freeze

      def self.of_log(log)
        modules = log.conversations.select(&:answered?).map { |each| module_of(each) }
        lost =
          log
            .conversations
            .reject { |each| each.answered? && each.broken.nil? }
            .map { |each| { request_id: id_text(each.request_id, each.extended), bus: each.bus, why: why(each) } }
        heavy =
          log.heavy_codes.map do |code|
            {
              source: code.source,
              spn: code.spn,
              fmi: code.fmi,
              count: code.count,
              lamps: code.lamps,
              bus: code.bus,
              text: heavy_text(code)
            }
          end
        [modules, lost, heavy, log.wheels, log.skipped]
      end

      def self.why(conversation)
        return "waiting: it said 'response pending' and then nothing" if conversation.waiting?
        return "no answer" unless conversation.answered?

        if conversation.broken == "sequence"
          "sequence: a frame of its answer is missing or out of turn"
        else
          "incomplete: its answer breaks off"
        end
      end

      def self.id_text(id, extended)
        format(extended ? "%08X" : "%03X", id)
      end

      def self.module_of(conversation)
        {
          name: name_of(conversation),
          bus: conversation.bus,
          request_id: id_text(conversation.request_id, conversation.extended),
          response_id: id_text(conversation.answer_id, conversation.extended),
          answered: true,
          codes: conversation.codes.map { |read| code(read) },
          identifiers: conversation.identifiers,
          refused: conversation.refusals.transform_values { |byte| refusal(byte) }
        }
      end

      def self.name_of(conversation)
        conversation.identifiers["name"] || (KNOWN[conversation.request_id] unless conversation.extended) ||
          "module #{id_text(conversation.request_id, conversation.extended)}"
      end

      def self.refusal(byte)
        Knowledge.catalogue.negative_responses.dig(byte, "text") || "refused with #{byte}"
      end

      def self.code(read)
        {
          code: read.word.text,
          failure_type: read.word.failure_type,
          failure_text: Knowledge.catalogue.failure_types.dig(read.word.failure_type, "text"),
          status_byte: read.status && format("%02X", read.status.value),
          status: read.status ? read.status.set : read.words,
          current: read.status && read.status.value[0] == 1,
          text: Knowledge.catalogue.chassis_codes.dig(read.word.text, "text")
        }
      end

      def self.heavy_text(code)
        catalogue = Knowledge.catalogue
        [
          catalogue.j1939.dig(code.spn.to_s, "text"),
          catalogue.failure_modes_j1939.dig(code.fmi.to_s, "text")
        ].compact.join(": ")
      end

      # Rows of a code list, module by module.
      def self.of_list(rows)
        rows
          .group_by(&:module_name)
          .map do |name, group|
            {
              name: name.empty? ? "module not named" : name,
              bus: nil,
              request_id: nil,
              response_id: nil,
              answered: true,
              codes: group.map { |row| listed(row.row) }
            }
          end
      end

      def self.listed(row)
        byte = row["status"].to_s.match?(/\A[0-9A-F]{2}\z/) ? TroubleCodes::StatusByte.parse(row["status"]) : nil
        word = byte ? byte.word : row["status"]
        {
          code: row["code"],
          failure_type: row["failure_type"],
          failure_text: Knowledge.catalogue.failure_types.dig(row["failure_type"], "text"),
          status_byte: byte && row["status"],
          status: byte ? byte.set : [word].compact,
          current: word && word == "current",
          text: row["text"].to_s.empty? ? Knowledge.catalogue.chassis_codes.dig(row["code"], "text") : row["text"]
        }
      end
      private_class_method :of_log,
                           :why,
                           :id_text,
                           :module_of,
                           :name_of,
                           :refusal,
                           :code,
                           :heavy_text,
                           :of_list,
                           :listed

      attr_reader :modules, :lost, :heavy, :wheels, :skipped

      # wheels: of heavy vehicles, as Protocols::WheelMessage tells them; skipped: lines of a bus log that were passed
      # over, {name => count}.
      def initialize(modules, lost, heavy, wheels = [], skipped = {})
        @skipped = skipped
        @modules = modules
        @lost = lost
        @heavy = heavy
        @wheels = wheels
      end

      # The fields of docs/formats/captures.md: modules, codes, what was lost.
      def to_h
        { modules: modules, lost: lost, j1939: heavy }.merge(wheels.empty? ? {} : { wheel_speeds: wheels }).merge(
          skipped.empty? ? {} : { skipped: skipped }
        )
      end

      # Against a later scan: the fields of docs formats section 3.
      def compared_with(later)
        before = coded
        after = later.coded
        both = before.keys & after.keys
        history = both.select { |key| before[key][:current] && after[key][:current] == false }
        {
          gone: names(before.keys - after.keys),
          stayed: names(both - history),
          new: names(after.keys - before.keys),
          turned_to_history: names(history),
          modules_lost: module_names - later.module_names,
          modules_gained: later.module_names - module_names
        }
      end

      # {[module, code, failure type] => code}
      def coded
        heavy_rows =
          heavy.to_h do |code|
            [["source #{code[:source]}", "SPN #{code[:spn]} FMI #{code[:fmi]}", nil], { current: true }]
          end
        modules
          .flat_map { |each| each[:codes].map { |code| [[each[:name], code[:code], code[:failure_type]], code] } }
          .to_h
          .merge(heavy_rows)
      end

      # Names of the modules that are in it.
      def module_names
        modules.map { |each| each[:name] }
      end

      private

      def names(keys)
        keys.map { |name, code, type| { module: name, code: code, failure_type: type } }
      end
    end
  end
end
