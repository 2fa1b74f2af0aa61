# frozen_string_literal: true

module Web
  module Pages
    # One capture of a job: what was found, the ring, and what it would say as evidence.
    class CapturePage
      # Field of the analysis => name, unit, digits.
      FIGURES = { "revolutions" => ["turns", nil, 1], "teeth" => ["teeth", nil, 0], "cut_in_bar" => ["cut-in", "bar", 0], "cut_out_bar" => ["cut-out", "bar", 0], "run_s" => ["runs", "s", 1],
                  "rest_s" => ["rests", "s", 1], "leak_bar_s" => ["falls", "bar/s", 2], "precharge_bar" => ["gas", "bar", 0] }.freeze

      attr_reader :kept

      # kept: Store::CaptureStore::Kept.
      def initialize(file, kept)
        @file = file
        @kept = kept
        @system = file.log.system
      end

      def analysis
        kept.analysis
      end

      def circuit
        kept.circuit && @system.circuits.find { |each| each.id == kept.circuit }
      end

      def title
        [kept.name, circuit&.title].compact.join(" · ")
      end

      def kind
        Forms::CaptureForm::KINDS.fetch(analysis["signal"], analysis["signal"])
      end

      def findings
        analysis["findings"]
      end

      def ring?
        analysis["ring"].to_a.any?
      end

      def ring
        Svg::RingFigure.new(analysis["ring"], bad: bad_teeth).to_s
      end

      # {tooth => kind of finding}
      def bad_teeth
        findings.select { |row| row["teeth"] }.flat_map { |row| row["teeth"].map { |tooth| [tooth, row["kind"]] } }.to_h
      end

      # Entries that "take into the evidence" would write.
      def entries
        @entries ||= analysis["signal"] == "live_data" ? Gadwall::Signals::AsEvidence.of_live(analysis, @system) : [circuit && Gadwall::Signals::AsEvidence.of(analysis, circuit)].compact
      end

      # Is it all in the log already, and not withdrawn?
      def taken?
        entries.any? && entries.all? { |entry| @file.log.standing.any? { |each| each.slice("kind", "test", "result") == entry } }
      end

      # Figures in words: [[name, value], ...].
      def figures
        FIGURES.filter_map { |key, (name, unit, digits)| [name, [analysis[key].round(digits), unit].compact.join(" ")] if analysis[key] } +
          (analysis["phases"] || []).map { |phase| [phase["name"].tr("_", " "), "#{phase['level_a']} A, #{(phase['end_s'] - phase['start_s']).round(2)} s"] }
      end
    end
  end
end
