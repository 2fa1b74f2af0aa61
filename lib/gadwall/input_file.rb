# frozen_string_literal: true

module Gadwall
  # Opens a file that somebody named. A file that cannot be opened or read is an InputError with the system's reason.
  module InputFile
    # Yields the file as bytes. on_progress: called now and then with the share that has been read, 0..1, or nil.
    # Returns what the block returns.
    def self.open(path, on_progress: nil)
      File.open(path, "rb") { |io| yield on_progress ? Followed.new(io, on_progress) : io }
    rescue SystemCallError => error
      raise InputError.new(
              field: "file",
              given: path,
              expected: "a file that can be read (#{error.message[/\A[^@]+/].strip})"
            )
    end

    # An open file that tells how far it has been read.
    class Followed
      EVERY_BYTES = 1 << 18

      def initialize(io, on_progress)
        @io = io
        @on_progress = on_progress
        @size = [io.size, 1].max
        @next = 0
      end

      # As IO#each_line.
      def each_line
        return to_enum(:each_line) unless block_given?

        @io.each_line do |line|
          tell
          yield line
        end
      end

      # As IO#read.
      def read(*bytes)
        @io.read(*bytes).tap { tell }
      end

      # As IO#gets.
      def gets(*limits)
        @io.gets(*limits)
      end

      # As IO#rewind.
      def rewind
        @io.rewind
      end

      private

      def tell
        return if @io.pos < @next

        @next = @io.pos + EVERY_BYTES
        @on_progress.call(@io.pos / @size.to_f)
      end
    end
  end
end
