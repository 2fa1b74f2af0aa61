# frozen_string_literal: true

module Web
  module Pages
    # A form that could not be taken as it came: what was typed is kept here, to be sent again with one touch.
    class ResumePage < Page
      HIDDEN = %w[form_token seen person].freeze

      attr_reader :text, :path, :person

      # text: why; path: where the form goes; typed: {field => value} as Rack gave it; person: who is known, or nil;
      # seen: seq of the job's last entry by now, in place of what the form had seen, or nil; fresh: does it get a token
      # of its own, as a form that was not taken yet?
      def initialize(text, path, typed, person:, seen: nil, fresh: false)
        super(nil, typed: seen ? typed.merge("seen" => seen.to_s) : typed)
        @fresh = fresh
        @text = text
        @path = path
        @person = person
      end

      def title
        "Send again"
      end

      # The form's own token stays, so that sending it again writes nothing twice; but for one whose content was never
      # taken.
      def form_token
        return SecureRandom.hex(16) if @fresh

        token = typed["form_token"]
        token.is_a?(String) && token.match?(/\A\h{16,64}\z/) ? token : SecureRandom.hex(16)
      end

      # [[name, value], ...] of everything to be sent again, nested fields by their full names.
      def fields
        typed.except("form_token", "person").flat_map { |name, value| flat(name, value) }
      end

      # [[name, text], ...] of what a person would recognise.
      def shown
        fields.reject { |name, value| HIDDEN.include?(name) || value.strip.empty? }.first(20)
      end

      # A file cannot be kept by a page.
      def file?
        typed.values.any? { |value| value.is_a?(Hash) && value.key?("tempfile") }
      end

      private

      def flat(name, value)
        case value
        when Hash
          value.key?("tempfile") ? [] : value.flat_map { |key, each| flat("#{name}[#{key}]", each) }
        when Array
          value.flat_map { |each| flat("#{name}[]", each) }
        else
          [[name, value.to_s]]
        end
      end
    end
  end
end
