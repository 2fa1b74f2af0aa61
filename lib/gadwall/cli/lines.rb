# frozen_string_literal: true

require "json"

module Gadwall
  module CLI
    # Many documents in one process: one JSON document a line in, {"ok": ...} or {"error": "the sentence"} a line out,
    # in the same order, as soon as each is known. Empty lines are no documents.
    class Lines
      def initialize(out, err, input)
        @out = out
        @err = err
        @input = input
      end

      # A block makes the answer from a document; what is wrong stands in its line.
      def run(&)
        while (line = @input.gets("\n", Command::MOST_BYTES + 1))
          next if line.strip.empty?

          @out.puts JSON.generate(answer(line, &))
          @out.flush
        end
      end

      private

      def answer(line)
        { ok: yield(document(line)) }
      rescue Error => error
        { error: error.message.gsub(/\s+/, " ") }
      rescue StandardError => error
        # One document must not take the answers of the others with it; whoever runs this sees what to report.
        @err.puts error.full_message(highlight: false)
        { error: "This document could not be worked on (#{error.class}); please report it." }
      end

      def document(line)
        if line.bytesize > Command::MOST_BYTES
          drop_the_rest(line)
          raise InputError.new(
                  field: "line",
                  given: "more than #{Command::MOST_BYTES} bytes",
                  expected: "a document of at most #{Command::MOST_BYTES / 1_000_000} MB"
                )
        end
        Quantity::Decimal.json(line.dup.force_encoding("UTF-8"), field: "line")
      end

      def drop_the_rest(line)
        line = @input.gets("\n", Command::MOST_BYTES) until line.nil? || line.end_with?("\n")
      end
    end
  end
end
