# frozen_string_literal: true

module Web
  # What a form sent, read once: each field as the kind that it must be. A field of another kind (a list where a text is
  # expected) is no form of ours: BadInput.
  class Input
    # params: as Rack gives them.
    def initialize(params)
      @params = params
    end

    # The text of a field, trimmed; "" where it is absent.
    def text(name)
      raw(name).strip
    end

    # The text of a field as it was typed.
    def raw(name)
      given = @params[name.to_s]
      return "" if given.nil?
      return given if given.is_a?(String)

      raise BadInput, "The field '#{name}' holds a list where a text is expected."
    end

    # A text, or nil where it is absent or empty.
    def text_or_nil(name)
      given = text(name)
      given.empty? ? nil : given
    end

    # A whole number, or nil for anything else.
    def integer(name)
      given = text(name)
      given.match?(/\A\d{1,15}\z/) ? given.to_i : nil
    end

    # A number with a decimal point or comma, or nil.
    def decimal(name)
      Gadwall::Quantity::Decimal.read(text(name))
    end

    # The texts of a field that may come several times.
    def list(name)
      given = @params[name.to_s]
      return [] if given.nil?
      return given if given.is_a?(Array) && given.all?(String)

      raise BadInput, "The field '#{name}' does not hold a list of texts."
    end

    # A field that holds fields: {name => ...}; {} where it is absent.
    def fields(name)
      given = @params[name.to_s]
      return {} if given.nil?
      return given.to_h if given.is_a?(Hash)

      raise BadInput, "The field '#{name}' does not hold fields."
    end

    # Was the field sent at all?
    def given?(name)
      @params.key?(name.to_s)
    end

    # A file handed in: {"filename" =>, "tempfile" =>}, or nil.
    def upload(name)
      given = @params[name.to_s]
      given if given.is_a?(Hash) && given["tempfile"] && given["filename"].is_a?(String)
    end

    # Token of this very form, so that a repeated post writes nothing twice; nil where it has none.
    def token
      raw("form_token")[/\A\h{16,64}\z/]
    end

    # seq of the last entry that the form's page showed, or nil.
    def seen
      integer("seen")
    end

    # Everything as it was sent, without what guards a form.
    def typed
      @params.except("authenticity_token", "captures", "splat", "number")
    end
  end
end
