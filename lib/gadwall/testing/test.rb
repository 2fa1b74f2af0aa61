# frozen_string_literal: true

module Gadwall
  module Testing
    # One test on one harness, ready to be told to a technician. Ids are relative to the circuit; System adds its name.
    #
    # kind: "ohms", "volts", "amperes" (a number is read), "signal", "watch", "table", "wiggle" (one of `outcomes` is
    # seen).
    # access: [[key, minutes], ...], each paid once; place: where a look or a wiggle happens.
    Test =
      Struct.new(
        :id,
        :title,
        :kind,
        :state,
        :probes,
        :where,
        :access,
        :closes,
        :minutes,
        :invasive,
        :cautions,
        :place,
        :outcomes,
        :record,
        :source,
        keyword_init: true
      ) do
        UNITS = { "ohms" => "ohm", "volts" => "V", "amperes" => "A" }.freeze # rubocop:disable Lint/ConstantDefinitionInBlock

        # "ohm", "V" or "A"; nil for what is seen.
        def unit
          UNITS[kind]
        end

        # Is a figure read?
        def numeric?
          UNITS.key?(kind)
        end

        # A test that watches for a while, and so can catch a fault that comes and goes.
        def window?
          record["window"] || false
        end
      end
  end
end
