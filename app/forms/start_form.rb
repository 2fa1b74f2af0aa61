# frozen_string_literal: true

module Web
  module Forms
    # What an empty workshop needs to begin, as typed.
    class StartForm
      MOST = { "name" => 80, "address" => 300, "lead" => 60 }.freeze

      attr_reader :typed, :errors, :shop, :units

      # input: Web::Input.
      def initialize(input)
        kinds = Gadwall::Quantity::Units::CHOICES.keys
        @typed = [*MOST.keys, "rate", "currency", *kinds].to_h { |name| [name, input.text(name).strip] }
        @errors = {}
        check_texts
        @shop, wrong = Gadwall::Decision::Shop.typed(@typed.slice("rate", "currency"), Gadwall::Knowledge.catalogue)
        @errors.merge!(wrong)
        @units = preferences(kinds)
      end

      # {"name", "address"}.
      def card
        typed.slice("name", "address")
      end

      # Who leads it.
      def lead
        Gadwall::Signature.trimmed(typed["lead"]).gsub(/\p{Space}+/, " ")
      end

      private

      def check_texts
        @errors["name"] = "Enter what the workshop is called." if typed["name"].empty?
        @errors["lead"] = "Enter your name, in letters." unless Gadwall::Signature.of(lead)
        MOST.each do |name, most|
          length = typed[name].length
          @errors[name] = "#{length} letters; at most #{most}. Shorten it." if length > most
        end
      end

      def preferences(kinds)
        Gadwall::Quantity::Preferences.new(typed.slice(*kinds).reject { |_, unit| unit.empty? })
      rescue Gadwall::InputError => error
        @errors[error.field] = error.message
        nil
      end
    end
  end
end
