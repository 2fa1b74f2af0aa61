# frozen_string_literal: true

module Web
  # Vehicles on the stand, as routes use them: the kept acts done again where a stand is not in memory, and one act more
  # at a time.
  class Stands
    KEPT = 12

    # store: Store::StandStore.
    def initialize(store)
      @store = store
      @stands = Gadwall::Recent.new(KEPT)
      @lock = Mutex.new
    end

    # Connects a job to a vehicle. exercise: Gadwall::Training::Exercise; by: who; at: Time.
    def connect(record, exercise, by:, at:)
      @store.connect(record, exercise.to_h.transform_keys(&:to_s), by: by, at: at.iso8601)
    end

    # The stand of a job: Gadwall::Training::Stand, or nil where it is connected to none.
    def of(record)
      kept = @store.find(record) or return
      @lock.synchronize { stand(kept) }
    end

    # Lets go of what is kept in memory: it is made again from its acts.
    def forget
      @lock.synchronize { @stands.clear }
    end

    # Does an act; one whose form's token ("token") is known was done already. act: Hash; by: who; at: Time. Returns
    # [Stand, Done]. Raises Gadwall::InputError, UnknownNameError; what is refused is not kept.
    def act(record, act, by:, at:)
      kept = @store.find(record) or raise Store::NotFound.new(record.number, kind: "connected vehicle")
      @lock.synchronize do
        stand = stand(kept)
        return stand, stand.done.last if act["token"] && stand.knows?(act["token"])

        seq = stand.done.size + 1
        done = done(kept, stand, act)
        @store.add(kept, act, seq: seq, by: by, at: at.iso8601)
        [stand, done]
      end
    end

    private

    # A stand that refused an act half-way is made anew from its acts.
    def done(kept, stand, act)
      stand.act(act)
    rescue Gadwall::Error
      @stands.keep(kept.id, replayed(kept))
      raise
    end

    def stand(kept)
      @stands.fetch(kept.id) { replayed(kept) }
    end

    def replayed(kept)
      Gadwall::Training::Stand.replay(Gadwall::Training::Exercise.of(kept.source), @store.acts(kept))
    end
  end
end
