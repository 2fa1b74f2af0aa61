# frozen_string_literal: true

require "json"

module Gadwall
  # `bin/gadwall`: JSON on standard output, one sentence on standard error. Exit 0, 1 for bad input, 2 for wrong usage.
  class CommandLine
    WHEEL_OPTIONS = "[--teeth N] [--sensor passive|active] [--channel NAME] [--circumference METRES]"
    USAGE = <<~TEXT.freeze
      usage: gadwall assess CASE.json    suspects, next tests and verdict of a case
             gadwall tests CASE.json     every test of the case's vehicle, with its outcomes
             gadwall faults CASE.json    every fault that the case's vehicle can have
             gadwall check CASE.json     read the case and say what is in it
             gadwall plan CASE.json [--place CIRCUIT/PLACE [--option ID]] ...
                                         the composed work of a case that holds a decision, or for these places
             gadwall options CASE.json --place CIRCUIT/PLACE
                                         the ways to mend a place
             gadwall simulate VEHICLE.json [--fault FAULT] ... [--seed N] [--session SESSION] [--log FILE]
                                         a session with the simulated vehicle: scan, clear, live, routine:ID,
                                         write:DID=HEX; its traffic as a bus log
             gadwall day DAY.json        a day's work: who does what, where and when; what is late
             gadwall sum [NAME key=value ...]
                                         one of the quick sums; without a name, the list of them
             gadwall scan FILE           modules and codes out of a bus log or a code list
             gadwall scan BEFORE AFTER   two of them compared
             gadwall capture FILE --signal wheel_speed #{WHEEL_OPTIONS}
                                         what a sampled wheel-speed signal (CSV or VCD) tells of ring, sensor and wiring
             gadwall capture FILE --signal motor_current|pump_pressure [--channel NAME]
             gadwall capture FILE --signal live_data [--columns JSON]
                                         each with [--view FILE] for what a page draws, and [--progress]
      CASE.json may be - for standard input. The format: docs/formats/case.md
    TEXT
    COMMANDS = %w[assess tests faults check].freeze
    MOST_BYTES = 20_000_000

    def initialize(out: $stdout, err: $stderr, input: $stdin, models: Vehicle::ModelCache.new)
      @out = out
      @err = err
      @input = input
      @models = models
    end

    # arguments: Array of String. Returns the exit status.
    def run(arguments)
      command, path, *rest = arguments
      if command == "scan" && path && rest.size <= 1 && [path, *rest].none? { |each| each.start_with?("--") }
        return scan(path, rest)
      end
      return capture(arguments.drop(1)) if command == "capture"
      return plan(command, path, rest) if %w[plan options].include?(command)
      return simulate(path, rest) if command == "simulate"
      return sum(path, rest) if command == "sum"
      return day(path, rest) if command == "day"
      return usage unless COMMANDS.include?(command) && path && rest.empty?

      @out.puts JSON.pretty_generate(send(command, CaseFile.parse(text_of(path), models: @models)))
      0
    rescue Error => error
      @err.puts error.message.gsub(/\s+/, " ")
      1
    end

    private

    def scan(path, rest)
      first = ScanFile.read(path)
      @out.puts JSON.pretty_generate(rest.empty? ? first.to_h : first.compared_with(ScanFile.read(rest.first)))
      0
    end

    def sum(name, pairs)
      return list_sums if name.nil?
      return usage if name.start_with?("--") || pairs.any? { |pair| !pair.match?(/\A\w+=/) }

      @out.puts JSON.pretty_generate(SumFile.computed(name, pairs.to_h { |pair| pair.split("=", 2) }))
      0
    end

    def list_sums
      @out.puts JSON.pretty_generate(SumFile.list)
      0
    end

    def day(path, rest)
      return usage if path.nil? || path.start_with?("--") || rest.any?

      @out.puts JSON.pretty_generate(DayFile.new(text_of(path)).to_h)
      0
    end

    SIMULATE = %w[--fault --seed --session --log].freeze

    def simulate(path, rest)
      pairs = rest.each_slice(2).to_a
      names = pairs.map(&:first)
      single = names - ["--fault"]
      unless path && !path.start_with?("--") && rest.size.even? && (names - SIMULATE).empty? && single.uniq == single
        return usage
      end

      faults, others = pairs.partition { |name, _| name == "--fault" }
      options = others.to_h
      session = SimulateFile.new(text_of(path), faults: faults.map(&:last), seed: seed(options["--seed"]))
      answer = session.run(options.fetch("--session", "scan"))
      keep_log(options["--log"], session.log) if options["--log"]
      @out.puts JSON.pretty_generate(answer)
      0
    end

    def seed(text)
      return 1 if text.nil?

      Integer(text, 10, exception: false) or
        raise InputError.new(field: "--seed", given: text, expected: "a whole number")
    end

    def keep_log(path, text)
      File.write(path, text)
    rescue SystemCallError => error
      raise InputError.new(field: "--log", given: path, expected: "a file that can be written (#{error.message})")
    end

    # Each --option belongs to the --place before it.
    def plan(command, path, rest)
      pairs = places(rest)
      return usage if path.nil? || path.start_with?("--") || pairs.nil?
      return usage if command == "options" && (pairs.size != 1 || pairs.first.last)

      file = PlanFile.new(CaseFile.parse(text_of(path), models: @models))
      @out.puts JSON.pretty_generate(answer(file, command, pairs))
      0
    end

    def answer(file, command, pairs)
      return file.options(pairs.first.first) if command == "options"

      pairs.empty? ? file.decided : file.placed(pairs)
    end

    # [[place, option or nil], ...]; nil for wrong usage.
    def places(rest)
      return unless rest.size.even?

      rest
        .each_slice(2)
        .with_object([]) do |(name, value), pairs|
          case name
          when "--place"
            pairs << [value, nil]
          when "--option"
            return nil if pairs.empty? || pairs.last.last

            pairs.last[1] = value
          else
            return nil
          end
        end
    end

    OPTIONS = %w[--signal --teeth --sensor --channel --circumference --columns --view].freeze

    # --view writes the samples there as the viewer takes them, and prints more fields; --progress tells on standard
    # error.
    def capture(arguments)
      path, *rest = arguments
      on_progress = rest.delete("--progress") && ->(share) { @err.puts "progress #{share.round(3)}" }
      options = rest.each_slice(2).to_h
      unless path && !path.start_with?("--") && rest.size.even? && (options.keys - OPTIONS).empty? &&
               options.size == rest.size / 2 && options["--signal"]
        return usage
      end
      return unknown_signal(options["--signal"]) unless CaptureFile::SIGNALS.include?(options["--signal"])

      @out.puts JSON.pretty_generate(
                  captured(path, options.transform_keys { |name| name.delete_prefix("--") }, on_progress)
                )
      0
    end

    def captured(path, options, on_progress)
      return CaptureFile.analyse(path, options) unless options["view"]

      analysis, trace = CaptureFile.view(path, options, on_progress: on_progress)
      File.binwrite(options["view"], trace.to_bytes)
      analysis
    rescue SystemCallError => error
      raise InputError.new(
              field: "--view",
              given: options["view"],
              expected: "a file that can be written (#{error.message})"
            )
    end

    # A kind of signal that there is none of is wrong usage, not a bad file.
    def unknown_signal(given)
      @err.puts UnknownNameError.new(field: "--signal", given: given, known: CaptureFile::SIGNALS).message
      usage
    end

    def usage
      @err.puts USAGE
      2
    end

    def text_of(path)
      text = path == "-" ? @input.read(MOST_BYTES + 1) : InputFile.open(path) { |io| io.read(MOST_BYTES + 1) }
      return text.to_s.dup.force_encoding("UTF-8") if text.to_s.bytesize <= MOST_BYTES

      raise InputError.new(field: "file", given: path, expected: "a case of at most #{MOST_BYTES / 1_000_000} MB")
    end

    def assess(kase)
      kase.assess
    end

    def tests(kase)
      kase.system.circuits.flat_map do |circuit|
        circuit.model.offered_tests.map do |test|
          {
            test: "#{circuit.id}.#{test.id}",
            text: "#{circuit.title}: #{test.title}",
            unit: test.unit,
            outcomes: test.outcomes,
            minutes: test.minutes,
            where: test.where
          }.compact
        end
      end
    end

    def faults(kase)
      kase.system.circuits.flat_map do |circuit|
        circuit.model.faults.map do |fault|
          {
            fault: "#{circuit.id}.#{fault.id}",
            text: "#{circuit.title}: #{fault.name}",
            repair: fault.repair,
            source: fault.source
          }
        end
      end
    end

    def check(kase)
      {
        vehicle: kase.system.sheet.name,
        entries: kase.log.entries.size,
        standing: kase.log.valid_entries.size,
        circuits: kase.system.circuits.map(&:id),
        unread: kase.unread
      }
    end
  end
end
