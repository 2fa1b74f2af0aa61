# frozen_string_literal: true

require "digest"
require "fileutils"

module Store
  # Things that can be made again, put away in a folder, one file for each. What another version made is of no use, and
  # goes. Which version it is, the class of the folder says (`version`): of all that its things are made from.
  class VersionFolder
    # path: of the folder, made where it is missing.
    def initialize(path)
      @folder = File.join(path, self.class.version)
      FileUtils.mkdir_p(@folder, mode: 0o700)
      (Dir[File.join(path, "*")] - [@folder]).each { |old| FileUtils.rm_rf(old) }
    end

    # One version of many texts.
    def self.digest(*texts)
      Digest::SHA256.hexdigest(texts.join("\0"))[0, 16]
    end

    # Paths of files of the program. pattern: as of Dir, from its root.
    def self.files(pattern)
      Dir[File.join(Gadwall::ROOT, pattern)]
    end

    # Bytes under a key, or nil.
    def read(key)
      File.binread(file(key))
    rescue SystemCallError
      nil
    end

    # Whole or not at all. A disk that is full costs only time.
    def write(key, bytes)
      made = "#{file(key)}.#{Process.pid}.#{Thread.current.object_id}"
      File.binwrite(made, bytes, perm: 0o600)
      File.rename(made, file(key))
    rescue SystemCallError
      FileUtils.rm_f(made)
    end

    private

    def file(key)
      File.join(@folder, Digest::SHA256.hexdigest(key)[0, 32])
    end
  end
end
