# frozen_string_literal: true

require "digest"

module Web
  # Pages as they were last made, kept with their job: whoever opens a job that nobody wrote to since sees its page
  # without a diagnosis being made again. Only what everybody sees alike is kept; what is of one person or one form is a
  # hole in it, filled with each answer.
  class KeptPages
    # folder: Store::PageFolder, or nil where none are kept.
    def initialize(folder)
      @folder = folder
    end

    # Are pages kept at all?
    def kept?
      !@folder.nil?
    end

    # All that a page of a job is made from, beside the program. record: Gadwall::Job::Record; seq: of its last entry;
    # more: what the workshop has set.
    def self.stamp(record, seq, *more)
      Digest::SHA256.digest([record.to_h, seq, more].inspect)
    end

    # The page of a name such as "J101/trace", with its holes, or nil.
    def page(name, stamp)
      @folder.page(name, stamp)
    end

    # In place of the earlier page of that name.
    def keep(name, stamp, html)
      @folder.keep(name, stamp, html)
    end
  end
end
