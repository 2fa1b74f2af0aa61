# frozen_string_literal: true

module Gadwall
  module Protocols
    # Who asks and who answers: which id of an answer belongs to which id of a request (ISO 15765-4 and -2; from
    # memory).
    module Addresses
      FUNCTIONAL_11 = 0x7DF
      # Normal fixed addressing of 29 bits: 18DA target source, 18DB for everybody; the tool is F1.
      PHYSICAL_29 = 0x18DA
      FUNCTIONAL_29 = 0x18DB
      # Mixed addressing of 29 bits: 18CE target source, the first byte of data extends the address; 18CD for everybody.
      MIXED_29 = 0x18CE
      MIXED_FUNCTIONAL_29 = 0x18CD
      TOOL = 0xF1
      OFFSET = 8 # an answer's id is the request's plus 8
      DIAGNOSTIC_11 = (0x600..0x7FF)

      # Returns :request, :answer, :broadcast or nil for what is no diagnostic id.
      def self.kind(message)
        return kind_29(message.id) if message.extended
        return :broadcast if message.id == FUNCTIONAL_11

        DIAGNOSTIC_11.cover?(message.id) ? :either : nil
      end

      def self.kind_29(id)
        case id >> 16
        when FUNCTIONAL_29, MIXED_FUNCTIONAL_29
          :broadcast
        when PHYSICAL_29, MIXED_29
          (id & 0xFF) == TOOL ? :request : :answer
        end
      end
      private_class_method :kind_29

      # Does the first byte of its data belong to the address?
      def self.mixed?(frame)
        frame.extended && [MIXED_29, MIXED_FUNCTIONAL_29].include?(frame.id >> 16)
      end

      # The id of the request that an answer of this id belongs to.
      def self.request_of(id, extended)
        extended ? swapped(id) : id - OFFSET
      end

      # 18DA 10 F1 <-> 18DA F1 10.
      def self.swapped(id)
        (id & 0xFFFF0000) | ((id & 0xFF) << 8) | ((id >> 8) & 0xFF)
      end
    end
  end
end
