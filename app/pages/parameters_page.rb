# frozen_string_literal: true

module Web
  module Pages
    # Parameter sets of the vehicle: kept in versions, compared three ways line by line.
    class ParametersPage < Page
      # A set that was kept. number: of the job it was kept in.
      Kept = Struct.new(:number, :source, :rows, :by, :at, :file, keyword_init: true)
      SOURCES = Gadwall::Job::Entries::Parameters::SOURCES

      # earlier: [[job number, Entries::Parameters], ...] of other jobs of this vehicle.
      def initialize(dossier, earlier: [], errors: {}, typed: {})
        super(dossier, errors: errors, typed: typed)
        @earlier = earlier
      end

      def stage
        "repair"
      end

      def title
        "#{number} · parameters"
      end

      # Array of Kept, oldest first.
      def kept
        own = dossier.log.of("parameters").map { |entry| [number, entry] }
        (@earlier + own).map do |job, entry|
          Kept.new(
            number: job,
            source: SOURCES[entry.source],
            rows: entry.rows,
            by: entry.by,
            at: entry.at,
            file: entry.file
          )
        end
      end

      # The last set of each source, compared: Array of Gadwall::Repair::ParameterSets::Line.
      def lines
        @lines ||= Gadwall::Repair::ParameterSets.compare(latest)
      end

      # Sources that there are, in words.
      def columns
        latest.compact.keys.map { |source| [source, SOURCES[source]] }
      end

      # How many lines differ, in words.
      def agreement
        differing = lines.count(&:differs)
        differing.zero? ? "all lines agree" : "#{differing} of #{lines.size} lines differ"
      end

      # May a set be kept now?
      def open?
        dossier.decided? && !dossier.handed_over?
      end

      private

      def latest
        Gadwall::Job::Entries::Parameters.latest(@earlier.map(&:last) + dossier.log.of("parameters"))
      end
    end
  end
end
