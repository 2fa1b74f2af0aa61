# frozen_string_literal: true

require "json"
require "optparse"

module Gadwall
  module CLI
    # One command of `bin/gadwall`: its options, what it takes and what it prints. A command has `usage` (its lines in
    # the help), and `answer` (what is printed, from what was typed); others come in as they need.
    class Command
      # Typed in a way that the command does not know: status 2.
      class WrongUsage < StandardError
      end

      MOST_BYTES = 20_000_000

      # out, err, input: IO; models: Vehicle::ModelCache, kept from one document to the next; clock: gives seconds, for
      # what runs in real time.
      def initialize(out:, err:, input:, models:, clock: nil)
        @out = out
        @err = err
        @input = input
        @models = models
        @clock = clock
        @options = {}
      end

      # arguments: Array of String, without the command's name. Raises WrongUsage, Gadwall::Error. Returns the status.
      def run(arguments)
        act(parser.parse(arguments))
        0
      rescue OptionParser::ParseError
        raise WrongUsage
      end

      private

      attr_reader :options

      # What is done with the arguments that are left of the options.
      def act(rest)
        return Lines.new(@out, @err, @input).run { |data| many(data) } if options[:lines] && rest.empty?
        raise WrongUsage if options[:lines] || !fits?(rest)

        print(answer(*rest))
      end

      def parser
        OptionParser.new do |parser|
          parser.require_exact = true
          parser.on("-h", "--help", "--version") { raise WrongUsage }
          declare(parser)
        end
      end

      # The command's own options. parser: OptionParser.
      def declare(parser)
      end

      # One document a line in, one answer a line out.
      def declare_lines(parser)
        parser.on("--lines") { @options[:lines] = true }
      end

      # Are these the arguments that `answer` takes? Most take one file.
      def fits?(rest)
        rest.size == 1
      end

      def print(value)
        @out.puts JSON.pretty_generate(value)
      end

      def once!(name, value)
        raise WrongUsage if @options.key?(name)

        @options[name] = value
      end

      def case_at(path)
        CaseFile.parse(text_of(path), models: @models)
      end

      # What a file holds, or standard input where the path is "-". Raises InputError.
      def text_of(path)
        text = path == "-" ? @input.read(MOST_BYTES + 1) : InputFile.open(path) { |io| io.read(MOST_BYTES + 1) }
        return text.to_s.dup.force_encoding("UTF-8") if text.to_s.bytesize <= MOST_BYTES

        raise InputError.new(field: "file", given: path, expected: "a case of at most #{MOST_BYTES / 1_000_000} MB")
      end

      # A whole number of an option. Raises InputError.
      def whole(name, text)
        Integer(text, 10, exception: false) or
          raise InputError.new(field: name, given: text, expected: "a whole number")
      end

      # Raises InputError where a file cannot be written.
      def writing(name, path)
        yield
      rescue SystemCallError => error
        raise InputError.new(field: name, given: path, expected: "a file that can be written (#{error.message})")
      end
    end
  end
end
