# frozen_string_literal: true

module Gadwall
  # What a bus log holds: frames, messages put together from them, and the diagnostic answers in those.
  module Protocols
    # One frame. time_s: Float; bus: "can0"; id: Integer; extended: 29 bits?; fd: of the flexible kind; data: Array of
    # bytes.
    Frame =
      Struct.new(:time_s, :bus, :id, :extended, :fd, :data, keyword_init: true) do
        # "7E8" or "18DAF110".
        def id_text
          format(extended ? "%08X" : "%03X", id)
        end

        # As a line of a bus log, without its end.
        def to_line
          format("(%.6f) %s %s#%s%s", time_s, bus, id_text, ("#1" if fd), data.pack("C*").unpack1("H*").upcase)
        end
      end

    # A message put together from frames. error: nil, "sequence" or "incomplete".
    Message =
      Struct.new(:time_s, :bus, :id, :extended, :data, :error, keyword_init: true) do
        # The identifier in hexadecimal: three digits, or eight where extended.
        def id_text
          format(extended ? "%08X" : "%03X", id)
        end
      end
  end
end
