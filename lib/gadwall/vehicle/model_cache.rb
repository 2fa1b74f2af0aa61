# frozen_string_literal: true

require "json"

module Gadwall
  module Vehicle
    # Circuit models that vehicles wired alike share, with the least lately used dropped: computing one takes far longer
    # than asking it. Safe for several threads; one model is computed by one of them, while the others wait for it.
    #
    # Models grow with what is asked of them, so the cache goes by their weight (Tests::CircuitModel#weight, tables).
    # What was computed of a model that is dropped is put away first: it is read again far sooner than computed.
    class ModelCache
      TABLES = 5_000 # some 20 kB each, with all that belongs to them: 100 MB; measured
      LAYOUTS = 200

      # most: so many tables are kept, those used last; layouts: so many layouts; place: where what is computed is put
      # away (Tests::Shelf), nil for nowhere.
      def initialize(most: TABLES, layouts: LAYOUTS, place: nil)
        @place = place
        @models = Kept.new(dropped: lambda(&:put_away)) { |all| all.sum { |_, model| model.weight } > most }
        @layouts = Kept.new { |kept| kept.size > layouts }
      end

      # The model of a circuit, made where it is not kept. template_id: of data/circuits; adaptation: Hash as on the
      # vehicle sheet. Returns a Tests::CircuitModel. Raises InputError for an adaptation that does not fit.
      def model(template_id, adaptation, catalogue)
        @models.fetch([template_id, adaptation]) do
          harness = Circuits::Harness.new(catalogue.circuits.fetch(template_id), adaptation, catalogue)
          layout =
            @layouts.fetch(Tests::CircuitLayout.key(template_id, adaptation)) do
              Tests::CircuitLayout.new(harness, catalogue)
            end
          shelf = @place && Tests::Shelf.new(@place, "#{template_id} #{JSON.generate(adaptation)}")
          Tests::CircuitModel.new(harness, catalogue, layout, shelf: shelf)
        end
      end

      # Puts away what was computed since the last time.
      def put_away
        @models.things.each(&:put_away) if @place
      end

      # How many models are kept.
      def size
        @models.size
      end

      # Things by key, those used last, each made once.
      class Kept
        # The block says of {key => thing} whether it is too much; dropped: called with each thing that is let go of.
        def initialize(dropped: nil, &too_much)
          @too_much = too_much
          @dropped = dropped
          @things = {}
          @building = {}
          @lock = Mutex.new
        end

        # The thing of a key; the block makes it where it is not kept.
        def fetch(key, &)
          known(key) || builder(key).synchronize { known(key) || keep(key, yield) }
        end

        # How many are kept.
        def size
          @lock.synchronize { @things.size }
        end

        # All that are kept.
        def things
          @lock.synchronize { @things.values }
        end

        private

        def known(key)
          @lock.synchronize { @things.key?(key) ? @things[key] = @things.delete(key) : nil }
        end

        def builder(key)
          @lock.synchronize { @building[key] ||= Mutex.new }
        end

        def keep(key, thing)
          let_go(key, thing).each { |left| @dropped&.call(left) }
          thing
        end

        # Keeps a thing. Returns those that had to go, the least lately used.
        def let_go(key, thing)
          @lock.synchronize do
            @building.delete(key)
            @things[key] = thing
            left = []
            left << @things.shift.last while @things.size > 1 && @too_much.call(@things)
            left
          end
        end
      end
      private_constant :Kept
    end
  end
end
