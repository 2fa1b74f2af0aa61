# frozen_string_literal: true

require "zlib"

module Store
  # Pages of jobs as they were last made: a folder beside the database, one file for each page. A page goes with its
  # stamp, which tells all that it was made from; another stamp finds nothing.
  class PageFolder < VersionFolder
    STAMP_BYTES = 32

    # path: of the folder, made where it is missing.
    def initialize(path)
      super(path, PageFolder.version)
    end

    # Version of everything that makes a page: data/ and all code.
    def self.version
      @version ||= digest(RUBY_VERSION, *code("{app,data,lib,store}/**/*.{rb,erb,yml}"))
    end

    # The page of a name, as text; nil where none is kept that was made from the same. stamp: STAMP_BYTES bytes.
    def page(name, stamp)
      bytes = read(name)
      return unless bytes&.start_with?(stamp)

      Zlib::Inflate.inflate(bytes.byteslice(STAMP_BYTES..)).force_encoding(Encoding::UTF_8)
    rescue Zlib::Error
      nil
    end

    # In place of the earlier page of that name.
    def keep(name, stamp, text)
      write(name, stamp + Zlib::Deflate.deflate(text, Zlib::BEST_SPEED))
    end
  end
end
