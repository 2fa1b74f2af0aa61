# frozen_string_literal: true

module Web
  module Pages
    # Captures and live data of a job: handed in, under way, analysed.
    class CapturesPage < Page
      Choice = IntakePage::Choice

      # pages: Array of CapturePage; analyses: Array of Store::AnalysisStore::Analysis.
      def initialize(dossier, pages, analyses, withdrawn: [], errors: {}, typed: {})
        super(dossier, errors: errors, typed: typed)
        @withdrawn = withdrawn
        @pages = pages
        @analyses = analyses
      end

      attr_reader :pages, :analyses, :withdrawn

      def empty?
        pages.empty? && analyses.empty?
      end

      def kinds
        Choice.new(name: "kind", label: "What it holds", value: typed["kind"], choices: Forms::CaptureForm::KINDS)
      end

      def circuits
        speaking = dossier.system.circuits.select { |circuit| Gadwall::Signals::AsEvidence.speaks_of?(circuit) }
        choices = speaking.to_h { |circuit| [circuit.id, circuit.title] }
        Choice.new(name: "circuit", label: "Taken at", value: typed["circuit"], choices: choices)
      end

      # Teeth by the vehicle sheet, as a hint.
      def teeth_hint
        dossier.sheet.teeth && "#{dossier.sheet.teeth} by the sheet"
      end

      # Circuits whose pump can be timed with a stop-watch: their ids.
      def pumps
        dossier.system.circuits.map(&:id).select { |id| id == "accumulator" }
      end

      # Where a finding begins, as the data has it.
      def limits
        signal = catalogue.signal
        "A gap counts from #{signal["wide_gap_from"]["value"]} normal periods, a low tooth below " \
          "#{signal["damaged_below"]["value"]} of its neighbours, run-out from a depth of " \
          "#{signal["runout_from"]["value"]}."
      end
    end
  end
end
