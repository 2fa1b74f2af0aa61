# frozen_string_literal: true

module Gadwall
  module CLI
    # `bin/gadwall`: JSON on standard output, one sentence on standard error. Status 0, 1 for bad input, 2 for wrong
    # usage.
    class Runner
      COMMANDS = {
        "assess" => Assess,
        "tests" => Tests,
        "faults" => Faults,
        "check" => Check,
        "plan" => Plan,
        "options" => Options,
        "simulate" => Simulate,
        "day" => Day,
        "sum" => Sum,
        "pads" => Pads,
        "scan" => Scan,
        "capture" => Capture
      }.freeze

      def initialize(out: $stdout, err: $stderr, input: $stdin, models: Vehicle::ModelCache.new, clock: nil)
        @out = out
        @err = err
        @given = { out: out, err: err, input: input, models: models, clock: clock }
      end

      # arguments: Array of String. Returns the exit status.
      def run(arguments)
        name, *rest = arguments
        command = COMMANDS[name] or raise Command::WrongUsage
        command.new(**@given).run(rest)
      rescue Command::WrongUsage
        @err.puts usage
        2
      rescue Error => error
        @err.puts error.message.gsub(/\s+/, " ")
        1
      end

      private

      def usage
        rows = COMMANDS.values.flat_map { |command| command::USAGE.each_slice(2).to_a }
        lines = rows.flat_map { |form, says| ["  gadwall #{form}", ("      #{says}" if says)].compact }
        ["usage:", *lines, "CASE.json may be - for standard input. The formats: docs/formats/"].join("\n")
      end
    end
  end
end
