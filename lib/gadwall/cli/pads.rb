# frozen_string_literal: true

module Gadwall
  module CLI
    # `bin/gadwall pads`: what the gauges at the wheels tell (docs/formats/pads.md).
    class Pads < Command
      USAGE = ["pads SHEET.json", "what pads and discs tell, from the gauges typed"].freeze

      private

      def answer(path)
        data = Quantity::Decimal.json(text_of(path), field: "pads sheet", fix: "See docs/formats/pads.md.")
        Gadwall::Pads::SheetFile.new(data).to_h
      end
    end
  end
end
