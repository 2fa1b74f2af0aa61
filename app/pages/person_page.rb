# frozen_string_literal: true

module Web
  module Pages
    # Who is at the bench.
    class PersonPage < Page
      attr_reader :back

      # back: path of the page to go on to.
      def initialize(back, errors: {}, typed: {})
        super(nil, errors: errors, typed: typed)
        @back = back
      end

      def title
        "Who is at the bench?"
      end
    end
  end
end
