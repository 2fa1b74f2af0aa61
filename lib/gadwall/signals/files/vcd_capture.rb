# frozen_string_literal: true

module Gadwall
  module Signals
    # Reads logic edges from a value change dump (IEEE 1364, clause 18; from memory): any timescale, several 1-bit
    # variables, x and z (which count as no change). Vectors and reals are passed over.
    class VcdCapture
      SCALES = { "s" => 1.0, "ms" => 1e-3, "us" => 1e-6, "ns" => 1e-9, "ps" => 1e-12, "fs" => 1e-15 }.freeze
      Variable = Struct.new(:name, :times, :values)

      # io: answers each_line. Returns a Capture of edges, one for each variable. Raises InputError that names line and
      # column.
      def self.read(io)
        new.read(io)
      end

      def initialize
        @scale = nil
        @variables = {}
        @scope = []
        @now = 0
        @number = 0
        @command = nil
        @words = []
      end

      # io: answers each_line. Returns Edges. Raises InputError that names line and column.
      def read(io)
        io.each_line do |line|
          @number += 1
          line.scrub("?").scan(/\S+/) { |word| take(word, Regexp.last_match.begin(0) + 1) }
        end
        finish
      end

      private

      def take(word, column)
        if @command
          inside(word, column)
        elsif @vector
          @vector = nil # the name of what a vector or a real belongs to, whatever it looks like
        elsif word.start_with?("$")
          command(word, column)
        elsif word.start_with?("#")
          moment(word, column)
        else
          change(word, column)
        end
      end

      def command(word, column)
        return if %w[$end $dumpvars $dumpall $dumpon $dumpoff].include?(word)
        unless %w[$timescale $scope $upscope $var $enddefinitions $date $version $comment].include?(word)
          raise at(column, word, "a command such as $timescale, $var or $enddefinitions")
        end

        @command = word
        @words = []
      end

      def inside(word, column)
        return @words << word unless word == "$end"

        case @command
        when "$timescale"
          timescale(column)
        when "$scope"
          @scope << @words[1].to_s
        when "$upscope"
          @scope.pop
        when "$var"
          variable(column)
        end
        @command = nil
      end

      def timescale(column)
        match = /\A(1|10|100)\s*(s|ms|us|ns|ps|fs)\z/.match(@words.join) or
          raise at(column, @words.join(" "), "1, 10 or 100 and a unit, such as 1 us")
        @scale = match[1].to_i * SCALES.fetch(match[2])
      end

      def variable(column)
        raise at(column, @words.join(" "), "type, size, sign and name of a variable") if @words.size < 4
        return unless @words[1] == "1"

        @variables[@words[2]] = Variable.new(@words[3], [], [])
      end

      def moment(word, column)
        time = Integer(word[1..], 10, exception: false)
        raise at(column, word, "a time such as #1446, not before the last one") unless time && time >= @now

        @now = time
      end

      def change(word, column)
        return @vector = word if word.match?(/\A[bBrR]/)
        raise at(column, word, "a value 0, 1, x or z with the sign of a variable") unless word.match?(/\A[01xXzZ]\S+\z/)

        variable = @variables[word[1..]] or return
        value = { "0" => 0.0, "1" => 1.0 }[word[0]]
        return if value.nil? || variable.values.last == value

        variable.times << (@now * (@scale || 1e-9))
        variable.values << value
      end

      def at(column, given, expected)
        InputError.new(field: "line #{@number}, column #{column}", given: given, expected: expected)
      end

      # One capture for each variable would have times of its own; the first with edges counts unless another is asked
      # for.
      def finish
        if @command
          raise InputError.new(
                  field: "line #{[@number, 1].max}, column 1",
                  given: @command,
                  expected: "$end after #{@command}"
                )
        end
        if @variables.values.all? { |each| each.times.empty? }
          raise InputError.new(
                  field: "line #{[@number, 1].max}, column 1",
                  given: "",
                  expected: "at least one 1-bit variable with changes"
                )
        end

        Edges.new(@variables.values.reject { |each| each.times.empty? })
      end

      # Captures by variable, each with times of its own; answers like a Capture of the first.
      class Edges
        attr_reader :channels

        def initialize(variables)
          @captures =
            variables.to_h do |each|
              [
                each.name,
                Capture.new(
                  each.times,
                  [Capture::Channel.new(name: each.name, unit: "", values: each.values)],
                  edges_only: true
                )
              ]
            end
          @channels = @captures.values.flat_map(&:channels)
        end

        # The capture of one variable. Raises UnknownNameError.
        def only(name)
          return @captures.values.first if name.nil?

          @captures.find { |key, _| key.casecmp?(name) }&.last or
            raise UnknownNameError.new(field: "channel", given: name, known: @captures.keys)
        end
      end
    end
  end
end
