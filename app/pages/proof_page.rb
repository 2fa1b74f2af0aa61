# frozen_string_literal: true

module Web
  module Pages
    # Verifying the repair, and handing over.
    class ProofPage < Page
      # A check as it is drawn. mark: "✓", "✕" or "○"; look: "good", "bad" or "todo"; drive: id of the road-test part
      # that is still to be entered, or nil.
      ItemRow = Struct.new(:title, :text, :detail, :mark, :look, :drive, keyword_init: true)

      # form: Forms::CodesForm of a post-scan that was refused, or nil.
      def initialize(dossier, form: nil, errors: {}, typed: {})
        super(dossier, errors: errors, typed: typed)
        @form = form
      end

      def stage
        "proof"
      end

      # Can checks be entered?
      def ready?
        !dossier.plan.nil? && dossier.plan.done? && !dossier.handed_over?
      end

      def handed_over?
        dossier.handed_over?
      end

      def verified?
        !proof.nil? && proof.proven?
      end

      def open_points
        proof ? proof.open_points : []
      end

      def items
        proof ? proof.items.map { |item| item_row(item) } : []
      end

      # The confirming test to be repeated next, or nil.
      def confirming
        ready? ? proof.confirming_test : nil
      end

      def unit
        { "ohm" => "Ω" }.fetch(confirming.test.unit, confirming.test.unit)
      end

      # Is the post-scan still to be entered?
      def scan_due?
        ready? && proof.comparison.nil?
      end

      def fields
        ScanFields.new(dossier.sheet, @form, errors, "DTCs, one per line; empty when there are none")
      end

      def road_caution
        catalogue.cautions["road"]["text"]
      end

      private

      def proof
        dossier.proof
      end

      def item_row(item)
        look =
          if item.done
            item.good ? "good" : "bad"
          else
            "todo"
          end
        ItemRow.new(
          title: item.title,
          text: item.text,
          detail: item.detail,
          mark: { "good" => "✓", "bad" => "✕", "todo" => "○" }.fetch(look),
          look: look,
          drive: ready? && !item.done && item.id.start_with?("drive.") ? item.id.delete_prefix("drive.") : nil
        )
      end
    end
  end
end
