# frozen_string_literal: true

module Web
  module Pages
    # The warning lamps as buttons to touch, each lit or not.
    class LampButtons
      # id; short: the letters in the lamp; name: what it is; lit: is it noted as lit.
      Button = Struct.new(:id, :short, :name, :lit, :message, keyword_init: true)

      # time: when they are lit, or nil; others_out: are all others noted as out?
      attr_reader :time, :others_out

      # lit: ids.
      def initialize(lit:, time: nil, others_out: false)
        @lit = lit
        @time = time
        @others_out = others_out
      end

      # Of lamps as the diagnosis has them. lamps: Array of Gadwall::Observations::Lamp.
      def self.of(lamps)
        lit = lamps.select(&:lit)
        new(lit: lit.map(&:id), time: lit.filter_map(&:time).first, others_out: lamps.any? { |lamp| !lamp.lit })
      end

      # Array of Button.
      def buttons
        Gadwall::Knowledge.catalogue.lamps.values.map do |row|
          Button.new(
            id: row["id"],
            short: row["short"],
            name: row["name"],
            lit: @lit.include?(row["id"]),
            message: row["kind"] == "message"
          )
        end
      end

      # [[id, words], ...].
      def times
        Gadwall::Observations::LAMP_TIMES.to_a
      end

      # In a line: "ABS, ESC; all others out".
      def line
        shown = buttons.select(&:lit).map(&:short)
        return others_out ? "all out" : "none noted" if shown.empty?

        words = time ? " #{Gadwall::Observations::LAMP_TIMES.fetch(time)}" : ""
        "#{shown.join(", ")}#{words}#{"; all others out" if others_out}"
      end
    end
  end
end
