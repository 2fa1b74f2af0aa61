# frozen_string_literal: true

module Web
  module Pages
    # Jobs that were handed over, page by page, with a filter by number, name, plate, customer or DTC.
    class ClosedJobsPage < Page
      SHOWN = 40

      # listed: Array of Store::SummaryStore::Listed; count: of all that match; text: the filter, or nil; page: 1 or
      # more.
      def initialize(listed, count:, text:, page:, now:)
        super()
        @listed = listed
        @count = count
        @text = text
        @page = page
        @now = now
      end

      attr_reader :count, :text, :now, :page

      def title
        "Closed jobs"
      end

      def rows
        @listed
      end

      def pages
        [(count / SHOWN.to_f).ceil, 1].max
      end

      # The address of another page of the same filter.
      def path(number)
        query = { "q" => text, "page" => (number if number > 1) }.compact
        "/jobs/closed#{"?#{Rack::Utils.build_query(query)}" if query.any?}"
      end
    end
  end
end
