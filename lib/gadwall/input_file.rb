# frozen_string_literal: true

module Gadwall
  # Opens a file that somebody named. A file that cannot be opened or read is an InputError with the system's reason.
  module InputFile
    # Yields the file as bytes. Returns what the block returns.
    def self.open(path, &block)
      File.open(path, "rb", &block)
    rescue SystemCallError => error
      raise InputError.new(field: "file", given: path, expected: "a file that can be read (#{error.message[/\A[^@]+/].strip})")
    end
  end
end
