# frozen_string_literal: true

module Gadwall
  module Job
    module Acts
      # Keeps a sheet of pads and discs. values: readings (texts by field, as Pads::Sheet), new_at (text). What it says
      # of a corner with a wear sensor is a reading there, while that is searched for.
      class MeasurePads < Act
        TEST = "gauge_pads"

        private

        def closed
          after_handover
        end

        def check
          @sheet, errors = Gadwall::Pads::Sheet.typed(values[:readings] || {})
          errors.each { |field, sentence| refuse(field, sentence) }
          @new_at = text(:new_at).empty? ? nil : Quantity::Decimal.read(text(:new_at))
          refuse("new_at", "Enter the kilometres at which the pads were new, or leave it empty.") if wrong_start?
        end

        def wrong_start?
          return false if text(:new_at).empty?

          @new_at.nil? || @new_at.negative? || (@sheet&.distance && @new_at >= @sheet.distance)
        end

        def entries
          row = { "readings" => @sheet.data, "new_at" => @new_at }.compact
          [Entries::Pads.new(row), *findings]
        end

        # Thick or at the limit, at each loop whose wheel was measured.
        def findings
          return [] if dossier.decided?

          dossier
            .system
            .circuits
            .select { |circuit| circuit.family == "pad_wear" && circuit.corner }
            .filter_map { |circuit| finding(circuit) }
        end

        def finding(circuit)
          lining = @sheet.least_lining(circuit.corner)
          test = circuit.model.tests.values.find { |each| each.id.split(".").first == TEST }
          return unless lining && test

          result = lining <= @sheet.axle(circuit.corner, "least") ? "worn" : "good"
          Entries::Finding.of(test: "#{circuit.id}.#{test.id}", typed: result, result: result)
        end
      end
    end
  end
end
