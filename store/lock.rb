# frozen_string_literal: true

require "json"

module Store
  # Who works with a database file: held while a server runs, so that nobody deletes or serves the file beside it. The
  # system lets go of it when the process ends, however it ends.
  class Lock
    # path: of the database; words: who holds it, for those who are refused. Returns a Lock. Raises Unusable with the
    # holder's words.
    def self.take(path, words)
      file = File.open("#{path}.lock", File::RDWR | File::CREAT, 0o600)
      unless file.flock(File::LOCK_EX | File::LOCK_NB)
        holder = file.read.to_s.strip
        file.close
        raise Unusable, "#{path} is in use by #{holder.empty? ? "another process" : holder}. Stop that first."
      end

      new(file).tap { |lock| lock.say(words) }
    rescue SystemCallError => error
      raise Unusable, "#{path}.lock cannot be written (#{error.message}). Make the folder writable."
    end

    def initialize(file)
      @file = file
    end

    # Changes what those who are refused are told.
    def say(words)
      @file.rewind
      @file.truncate(0)
      @file.write(words)
      @file.flush
    end

    def release
      @file.truncate(0)
      @file.close
    end
  end
end
