# frozen_string_literal: true

module Gadwall
  module Job
    module Acts
      # Warning lamps and messages as they are seen now. What it does not speak of stays as it was said. values: lit
      # (ids of data/vehicle/lamps), time (of Observations::LAMP_TIMES, or nil), others_out (do all others pass their
      # bulb check and stay out?).
      class NoteLamps < Act
        # The entry, or nil where nothing was noted. values as for the act.
        def self.entry(values, catalogue)
          lit = values[:lit] || []
          out = values[:others_out] ? catalogue.lamps.keys - lit : []
          return if lit.empty? && out.empty?

          Entries::Lamps.new("lit" => lit.map { |id| { "lamp" => id, "when" => values[:time] }.compact }, "out" => out)
        end

        # What is wrong with the values, as a sentence; nil where nothing is.
        def self.error(values, catalogue)
          unknown = ((values[:lit] || []) - catalogue.lamps.keys).first
          unknown ||= values[:time] unless Observations::LAMP_TIMES.key?(values[:time])
          "'#{unknown.to_s[0, 40]}' is not on the list. Select again." if unknown
        end

        private

        def closed
          after_decision
        end

        def check
          error = self.class.error(values, dossier.catalogue)
          refuse("lamps", error) if error
        end

        def entries
          [self.class.entry(values, dossier.catalogue), *taken_back].compact
        end

        # The screen shows all lamps at once: what was said before is taken back, this counts.
        def taken_back
          log
            .of(Entries::Lamps::KIND)
            .map { |entry| Entries::Withdraw.new("entry" => entry.seq, "reason" => "lamps noted again") }
        end
      end
    end
  end
end
