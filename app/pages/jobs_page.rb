# frozen_string_literal: true

require "time"

module Web
  module Pages
    # The vehicles in the workshop, sorted by what needs a hand next: a wait that ran out or a promise that is past,
    # then work for a hand by when it was promised, then waits that run, then what waits for the customer.
    class JobsPage < Page
      # A vehicle in the list. urgency: "late", "due", "work", "waiting" or "customer"; why: what it waits for, in
      # words;
      # steps: [[stage name, "done", "now" or "later"], ...].
      Row =
        Struct.new(
          :number,
          :name,
          :plate,
          :customer,
          :stage,
          :steps,
          :next_action,
          :sentence,
          :why,
          :since,
          :urgency,
          :trouble,
          keyword_init: true
        )
      ORDER = %w[late due work waiting customer].freeze
      SOON_S = 2 * 3600
      SHOWN = 60

      # A vehicle that left and is watched. words: how far, or that its result is due.
      Watched = Struct.new(:number, :name, :plate, :customer, :words, :due, keyword_init: true)
      DAY_S = 86_400

      # listed: Array of Store::SummaryStore::Listed; now: Time; page: 1 or more; closed: how many jobs are handed over;
      # watched: those of them that are watched.
      def initialize(listed, now:, closed:, page: 1, watched: [])
        super()
        @now = now
        @closed = closed
        @watched = watched
        @page = [page, 1].max
        @sorted = listed.map { |each| [each, urgency(each.summary)] }.sort_by { |each, word| order(each, word) }
      end

      attr_reader :now

      def title
        "Jobs"
      end

      def count
        @sorted.size
      end

      def closed_count
        @closed
      end

      def rows
        @sorted.slice((@page - 1) * SHOWN, SHOWN).to_a.map { |each, word| row(each, word) }
      end

      # Vehicles on watch, what is due first: Array of Watched.
      def watched
        @watched.map { |each| watched_row(each) }
      end

      # The page after this one, or nil.
      def next_page
        @page + 1 if count > @page * SHOWN
      end

      def previous_page
        @page - 1 if @page > 1
      end

      private

      def watched_row(each)
        from, upto = [each.summary.watch_from, each.summary.watch_until].map { |text| Time.iso8601(text) }
        days = ((upto - from) / DAY_S).round
        day = (((now - from) / DAY_S).floor + 1).clamp(1, days)
        Watched.new(
          number: each.number,
          name: each.name,
          plate: each.plate,
          customer: each.customer,
          words: now >= upto ? "#{days} days are over: enter the result" : "day #{day} of #{days}",
          due: now >= upto
        ).freeze
      end

      def order(each, word)
        summary = each.summary
        moment = word == "waiting" ? ends(summary).min : summary.promised_at && Time.iso8601(summary.promised_at)
        [ORDER.index(word), moment ? moment.to_i : Float::INFINITY, summary.since, each.id]
      end

      def urgency(summary)
        return "late" if summary.promised_at && Time.iso8601(summary.promised_at) < now
        return ends(summary).any? { |moment| moment <= now } ? "due" : "waiting" if summary.waits.any?
        return "customer" if summary.stage == "decide"

        promised_soon?(summary) ? "due" : "work"
      end

      def promised_soon?(summary)
        summary.promised_at && Time.iso8601(summary.promised_at) < now + SOON_S
      end

      def ends(summary)
        summary.waits.map { |wait| Time.iso8601(wait["until"]) }
      end

      def row(each, word)
        summary = each.summary
        Row.new(
          number: each.number,
          name: each.name,
          plate: each.plate,
          customer: each.customer,
          stage: Gadwall::Job::Stage::NAMES.fetch(summary.stage),
          steps: steps(summary.stage),
          next_action: summary.next_action,
          sentence: summary.sentence,
          why: why(summary),
          since: summary.since,
          urgency: word,
          trouble: summary.trouble
        ).freeze
      end

      def steps(stage)
        here = Gadwall::Job::Stage::ALL.index(stage)
        Gadwall::Job::Stage::ALL
          .each_with_index
          .drop(1)
          .map { |id, i| [id, { -1 => "done", 0 => "now", 1 => "later" }.fetch(i <=> here)] }
      end

      # Waits and promises in words.
      def why(summary)
        waits = summary.waits.map { |wait| wait_words(wait) }
        waits << promise_words(Time.iso8601(summary.promised_at)) if summary.promised_at
        waits.join("; ")
      end

      def wait_words(wait)
        left = ((Time.iso8601(wait["until"]) - now) / 60).ceil
        left.positive? ? "#{wait["title"]}: #{left} min left" : "#{wait["title"]}: wait is over"
      end

      def promise_words(moment)
        gap = ((moment - now) / 60).round
        return "promised #{moment.localtime.strftime("%d %b %H:%M")}" if gap.abs > 24 * 60

        gap.negative? ? "promised, #{-gap / 60} h #{-gap % 60} min late" : "promised in #{gap / 60} h #{gap % 60} min"
      end
    end
  end
end
