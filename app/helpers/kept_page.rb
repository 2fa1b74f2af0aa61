# frozen_string_literal: true

module Web
  module Helpers
    # Pages that are kept with their job (KeptPages). While one is made, what belongs to one person or one form is left
    # as a hole; text that somebody typed cannot look like one, since it is escaped.
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

      # Is the page that is being made to be kept?
      def holes?
        @holes
      end

      # The hole of a name, or what fills it where no page is to be kept.
      def hole(name)
        holes? ? "<!--hole #{name}-->" : filling(name)
      end

      private

      # A page of a job that is connected to a simulated vehicle changes with that.
      def keeps_pages?
        workshop.pages.kept? && !practice? && !(workshop.simulates? && workshop.stands.of(job_record))
      end

      def job_record
        workshop.jobs.find(params["number"])
      end

      def name_of_kept(name)
        "#{params["number"]}/#{name}"
      end

      def page_stamp
        record = job_record
        KeptPages.stamp(record, workshop.entries.last_seq(record), workshop.shop.to_h, workshop.units.to_h)
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
          partial("shared/_tokens", csrf: session_token, form_token: SecureRandom.hex(16))
        when "person"
          partial("shared/_person")
        when "theme"
          theme ? %( data-theme="#{theme}") : ""
        end
      end
    end
  end
end
