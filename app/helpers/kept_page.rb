# frozen_string_literal: true

module Web
  module Helpers
    # Pages that are kept with their job as they were last made: whoever opens a job that nobody wrote to since sees its
    # page without a diagnosis being made again. What belongs to one person or one form is left as a hole, which is
    # filled with each answer; text that somebody typed cannot look like one, since it is escaped.
    module KeptPage
      HOLE = /<!--hole (\w+)-->/

      # The page of the address as it was made for the job as it stands; the block makes it where there is none.
      def kept_page(name, &)
        return yield unless keeps_pages? && !htmx? && request.query_string.empty?

        stamp = page_stamp
        html = workshop.pages.page(name_of_kept(name), stamp)
        return filled(html) if html

        html = with_holes(&)
        workshop.pages.keep(name_of_kept(name), stamp, html)
        filled(html)
      end

      # The screen that answers an act, as the block makes it; the whole page around it is kept for who comes next.
      def kept_screen(name, page, &)
        return yield unless keeps_pages?

        screen = with_holes(&)
        whole = with_holes { erb(:layout, layout: false, locals: { page: page }) { "#{screen}\n" } }
        workshop.pages.keep(name_of_kept(name), page_stamp, whole)
        filled(screen)
      end

      # The hole of a name, or what fills it where no page is to be kept.
      def hole(name)
        @holes ? "<!--hole #{name}-->" : filling(name)
      end

      private

      # A page of a job that is connected to a simulated vehicle changes with that.
      def keeps_pages?
        workshop.pages && !practice? && !(workshop.simulates? && workshop.stands.of(job_record))
      end

      def job_record
        @job_record ||= workshop.jobs.find(params["number"])
      end

      def name_of_kept(name)
        "#{params["number"]}/#{name}"
      end

      def page_stamp
        seq = workshop.entries.last_seq(job_record)
        Store::PageFolder.stamp(job_record.to_h, seq, workshop.shop.to_h, workshop.units.to_h)
      end

      def with_holes
        @holes = true
        yield
      ensure
        @holes = false
      end

      def filled(html)
        html.gsub(HOLE) { filling(::Regexp.last_match(1)) }
      end

      def filling(name)
        case name
        when "guards"
          tokens
        when "person"
          partial("shared/_person")
        when "theme"
          theme ? %( data-theme="#{theme}") : ""
        end
      end
    end
  end
end
