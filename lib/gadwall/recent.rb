# frozen_string_literal: true

module Gadwall
  # So many things that were lately used, by key; safe for several threads.
  class Recent
    # most: so many are kept.
    def initialize(most)
      @most = most
      @kept = {}
      @lock = Mutex.new
    end

    # The thing of a key; the block makes it where it is not kept.
    def fetch(key)
      found = @lock.synchronize { (kept = @kept.delete(key)) && (@kept[key] = kept) }
      found || keep(key, yield)
    end

    # Keeps a thing, and lets go of the least lately used. Returns it.
    def keep(key, value)
      @lock.synchronize do
        @kept.delete(key)
        @kept.shift while @kept.size >= @most
        @kept[key] = value
      end
    end

    # Lets go of everything.
    def clear
      @lock.synchronize { @kept.clear }
    end

    # How many are kept.
    def size
      @lock.synchronize { @kept.size }
    end

    # Is that kept now?
    def key?(key)
      @lock.synchronize { @kept.key?(key) }
    end
  end
end
