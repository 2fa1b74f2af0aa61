# frozen_string_literal: true

module Gadwall
  module Vehicle
    # Circuit models that vehicles wired alike share, with the least lately used dropped: computing one takes far longer
    # than asking it. Safe for several threads; one model is computed by one of them, while the others wait for it.
    class ModelCache
      # most: so many models are kept.
      def initialize(most: 400)
        @most = most
        @models = {}
        @building = Hash.new { |locks, key| locks[key] = Mutex.new }
        @lock = Mutex.new
      end

      # The model of a key, made by the block where it is not kept. key: Array of template id and adaptation.
      def fetch(key)
        kept(key) || builder(key).synchronize { kept(key) || keep(key, yield) }
      end

      # How many models are kept.
      def size
        @lock.synchronize { @models.size }
      end

      private

      def kept(key)
        @lock.synchronize { @models.key?(key) ? @models[key] = @models.delete(key) : nil }
      end

      def builder(key)
        @lock.synchronize { @building[key] }
      end

      def keep(key, model)
        @lock.synchronize do
          @building.delete(key)
          @models.shift while @models.size >= @most
          @models[key] = model
        end
      end
    end
  end
end
