# frozen_string_literal: true

module Gadwall
  module Job
    # What lists, search and scheduling need to know of a job without opening it. Written with every act.
    #
    # stage: id of Stage; closed: handed over; sentence, next_action, suspect: texts; since: when it last changed, ISO
    # 8601; watch_from, watch_until: ISO 8601 while a vehicle that left is watched, else nil; waits: [{"title" =>,
    # "until" => ISO 8601}, ...]; open_points: texts; codes: words of the pre-scan; places: {place => probability}
    # that the evidence leaves, for what the next reading changes; minutes: that the diagnosis still takes, or nil;
    # change: Change of the last reading as a Hash, or nil; trouble: why it cannot be assessed, or nil; engine:
    # version that computed it; decidable, off_road: as of Head.
    Summary =
      Struct.new(
        :stage,
        :closed,
        :sentence,
        :next_action,
        :suspect,
        :since,
        :promised_at,
        :watch_from,
        :watch_until,
        :waits,
        :open_points,
        :codes,
        :places,
        :minutes,
        :change,
        :trouble,
        :engine,
        :decidable,
        :off_road,
        keyword_init: true
      ) do
        # dossier: Dossier, whose head is told anew; before: the Summary that stood, or nil. Never raises for a job that
        # cannot be assessed.
        def self.of(dossier, before: nil)
          new(
            **work(dossier),
            **diagnosis(dossier, before),
            **watch(dossier),
            **Head.of(dossier).to_h,
            closed: dossier.handed_over?,
            since: dossier.log.entries.last&.at || dossier.record.taken_in_at,
            promised_at: dossier.record.promised_at,
            codes: codes(dossier.log),
            engine: Diagnosis.engine
          ).freeze
        end

        def self.work(dossier)
          {
            waits: dossier.plan ? waits(dossier.plan) : [],
            open_points: dossier.proof ? dossier.proof.open_points : []
          }
        end

        # Before the pre-scan nothing is assessed. After the decision the search does not move any more: what it last
        # said stays.
        def self.diagnosis(dossier, before)
          if dossier.decided?
            return(
              {
                suspect: dossier.decisions.map(&:text).join("; "),
                places: before&.places || {},
                change: before&.change
              }
            )
          end
          return { suspect: "", places: {} } unless dossier.log.scanned?
          if dossier.trouble
            return { suspect: "", places: before&.places || {}, change: nil, trouble: dossier.trouble.message }
          end

          assessment = dossier.assessment
          {
            suspect: assessment.verdict.suspect.text,
            minutes: assessment.verdict.proven? ? 0 : assessment.minutes_to_verdict,
            places: assessment.posterior.places.select { |_, probability| probability >= Change::LEAST },
            change: Change.between(before, dossier)
          }
        end

        # While a vehicle that left is watched.
        def self.watch(dossier)
          watch = Watch.of(dossier)
          return {} if watch.nil? || watch.ended?

          { watch_from: watch.from.utc.iso8601, watch_until: watch.due.utc.iso8601 }
        end

        def self.waits(plan)
          plan.waits.map { |row| { "title" => row.title, "until" => row.ready_at.utc.iso8601 } }
        end

        def self.codes(log)
          log.of(Entries::Scan::KIND).reject(&:after?).flat_map(&:codes).map { |row| row["code"].to_s.upcase }.uniq
        end
        private_class_method :work, :diagnosis, :watch, :waits, :codes
      end
  end
end
