# frozen_string_literal: true

module Gadwall
  module Simulator
    # The diagnostic services of a simulated module (ISO 14229-1:2020, from memory).
    module Uds
      NEGATIVE = 0x7F
      NRC = {
        service: 0x11,
        sub_function: 0x12,
        length: 0x13,
        busy: 0x21,
        conditions: 0x22,
        sequence: 0x24,
        range: 0x31,
        security: 0x33,
        key: 0x35,
        attempts: 0x36,
        delay: 0x37,
        pending: 0x78,
        sub_function_session: 0x7E,
        service_session: 0x7F
      }.freeze
      KEY_MASK = 0x5A3C # demo: the key is the seed with these bits turned

      # A refusal on the way. code: one of NRC.
      class Refused < StandardError
        attr_reader :code

        def initialize(name)
          @code = NRC.fetch(name)
          super(name.to_s)
        end
      end
    end
  end
end
