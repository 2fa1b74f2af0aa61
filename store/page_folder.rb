# frozen_string_literal: true

require "zlib"

module Store
  # Pages of jobs as they were last made: a folder beside the database, one file for each page. A page goes with its
  # stamp, which tells all that it was made from; another stamp finds nothing.
  class PageFolder < VersionFolder
    STAMP_BYTES = 32 # of SHA-256

    # Version of everything that makes a page: data/ and all code, told by the files' sizes and times, since a start
    # that read them all would take longer.
    def self.version
      @version ||=
        digest(
          RUBY_VERSION,
          *files("{app,data,lib,store}/**/*.{rb,erb,yml}").map do |file|
            stat = File.stat(file)
            "#{file} #{stat.size} #{stat.mtime.to_r}"
          end
        )
    end

    # The stamp of a page. made_from: plain values, all that it is made from beside the program.
    def self.stamp(*made_from)
      Digest::SHA256.digest(made_from.inspect)
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
