# frozen_string_literal: true

module Web
  module Pages
    # One capture of a job: what was found, the ring, the model of what it does at low speed, and what it would say as
    # evidence.
    class CapturePage < Page
      # Field of the analysis => name, unit, digits.
      FIGURES = {
        "revolutions" => ["revolutions", nil, 1],
        "teeth" => ["teeth", nil, 0],
        "tooth_hz" => ["frequency, mean", "Hz", 1],
        "cut_in_bar" => ["cut-in", "bar", 0],
        "cut_out_bar" => ["cut-out", "bar", 0],
        "run_s" => ["run time", "s", 1],
        "rest_s" => ["rest time", "s", 1],
        "duty" => ["duty cycle", nil, 2],
        "leak_bar_s" => ["leak-down", "bar/s", 2],
        "leak_ml_s" => ["loss, about", "mL/s", 1],
        "fluid_ml" => ["fluid per cycle, about", "mL", 0],
        "precharge_bar" => ["gas precharge", "bar", 0]
      }.freeze
      SIDES = { "park_brake_left" => "park_brake_right", "park_brake_right" => "park_brake_left" }.freeze

      attr_reader :stored

      # stored: Store::CaptureStore::StoredCapture; others: the captures of the same job; form: Forms::DipForm.
      def initialize(dossier, stored, others: [], form: Forms::DipForm.empty, errors: {}, typed: {})
        super(dossier, errors: errors, typed: typed)
        @stored = stored
        @others = others
        @form = form
        @system = dossier.system
      end

      # The address of this capture.
      def path
        "#{base}/captures/#{stored.id}"
      end

      # When it was taken: ISO 8601.
      def at
        stored.at
      end

      # Can what it shows still be taken into the evidence?
      def open?
        !dossier.decided? && !dossier.handed_over?
      end

      def analysis
        stored.analysis
      end

      def circuit
        stored.circuit && @system.circuits.find { |each| each.id == stored.circuit }
      end

      def title
        "#{number} · #{stored.name}"
      end

      # A log of live data speaks of the whole vehicle, whatever circuit was chosen.
      def heading
        [stored.name, (circuit&.title unless analysis["signal"] == "live_data")].compact.join(" · ")
      end

      # "clean", "faulty", "unreadable", or "doubtful": nothing found, but a note says why that proves nothing.
      def verdict
        analysis["verdict"] == "clean" && analysis["note"] ? "doubtful" : analysis["verdict"]
      end

      def clean?
        verdict == "clean" && findings.empty?
      end

      def kind
        Forms::CaptureForm::KINDS.fetch(analysis["signal"], analysis["signal"])
      end

      def findings
        analysis["findings"]
      end

      def overview
        analysis["overview"] || []
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
        @entries ||=
          if analysis["signal"] == "live_data"
            Gadwall::Signals::AsEvidence.of_live(analysis, @system)
          else
            [circuit && Gadwall::Signals::AsEvidence.of(analysis, circuit)].compact
          end
      end

      # What they say, in words: [[test, outcome], ...].
      def result_texts
        entries.map do |entry|
          circuit, test = @system.test(entry["test"])
          ["#{circuit.title}: #{test.title}", test.outcomes.fetch(entry["result"])]
        end
      end

      # Is it all in the log already, and not withdrawn?
      def taken?
        entries.any? &&
          entries.all? do |entry|
            dossier.log.of("finding").any? { |each| [each.test, each["result"]] == entry.values_at("test", "result") }
          end
      end

      # Figures in words: [[name, value], ...].
      def figures
        FIGURES.filter_map do |key, (name, unit, digits)|
          [name, [analysis[key].round(digits), unit].compact.join(" ")] if analysis[key]
        end +
          (analysis["phases"] || []).map do |phase|
            [phase["name"].tr("_", " "), "#{phase["level_a"]} A, #{(phase["end_s"] - phase["start_s"]).round(2)} s"]
          end
      end

      # -- columns of live data

      # [[column, parameter id or nil], ...], without the time; empty for other captures.
      def columns
        time = Gadwall::Signals::CsvCapture::TIME_NAME
        names = (analysis["mapping"] || {}).to_a
        names.reject.with_index do |(name, _), i|
          name.match?(time) || (i.zero? && names.none? { |other, _| other.match?(time) })
        end
      end

      # What a column is taken for: as chosen, where a choice was refused; else as read.
      def column_choice(index, parameter)
        (typed["columns"] || {}).fetch(index.to_s, parameter)
      end

      def parameters
        Gadwall::Knowledge.catalogue.live_parameters
      end

      # -- park-brake motors

      # [the left one's analysis, the right one's], where both were captured; the newest of the other side.
      def motor_sides
        other =
          analysis["signal"] == "motor_current" &&
            @others.find { |each| each.circuit == SIDES[stored.circuit] && each.analysis["signal"] == "motor_current" }
        return unless other

        stored.circuit == "park_brake_left" ? [analysis, other.analysis] : [other.analysis, analysis]
      end

      # Left compared with right, in a sentence.
      def sides_text
        Gadwall::Signals::MotorSides.words(*motor_sides)
      end

      # [[what, left, right, alike?], ...] with units.
      def sides_rows
        Gadwall::Signals::MotorSides
          .rows(*motor_sides)
          .map do |what, unit, left, right, alike|
            [what, left ? "#{left} #{unit}" : "–", right ? "#{right} #{unit}" : "–", alike]
          end
      end

      # Moments that findings are marked at, for the viewer: JSON.
      def marks
        JSON.generate(analysis["marks"] || [])
      end

      def marked?
        (analysis["marks"] || []).any?
      end

      # -- the wheel at low speed

      # Gadwall::Signals::LowSpeedDip of the widest gap, or nil where there is none or the tyre is not known. Raises
      # InputError.
      def dip
        return unless gap && circumference_m && analysis["teeth"]

        @dip ||=
          Gadwall::Signals::LowSpeedDip.new(
            gap: gap,
            teeth: analysis["teeth"],
            circumference_m: circumference_m,
            figures: figures_in_use
          )
      end

      def dip_figure
        Svg::DipFigure.new(dip)
      end

      # As typed; raises Gadwall::InputError.
      def figures_in_use
        @form.figures
      end

      # A weak sensor: volts from which a controller counts, and the speed below which this one is lost, in km/h or
      # rev/s; nil where it is not weak.
      def lost_below
        volts = findings.find { |row| row["kind"] == "weak_amplitude" }&.fetch("peak_to_peak_v") or return
        from = @form.controller_volt || Gadwall::Knowledge.catalogue.signal.dig("controller_volt", "value")
        turns = from / volts
        {
          volt: from,
          words: circumference_m ? "#{(turns * circumference_m * 3.6).round(1)} km/h" : "#{turns.round(2)} rev/s"
        }
      end

      # [[figure, label, unit, value], ...] as the form shows them.
      def dip_fields
        Forms::DipForm::FIGURES.map do |id, (label, unit, factor)|
          [id, label, unit, (dip.figures[id] / factor).round(3).to_s.delete_suffix(".0")]
        end
      end

      def circumference_m
        @system.sheet.circumference_m
      end

      # What was typed as the speed.
      def speed_text
        @form.speed_text
      end

      def controller_label
        Forms::DipForm::CONTROLLER.first(2).join(", ")
      end

      # Millivolts from which a controller counts, as the form shows them.
      def controller_millivolt
        (lost_below[:volt] * 1000).round(1).to_s.delete_suffix(".0")
      end

      def speed_km_h
        @form.speed_km_h
      end

      # Teeth in a turn at the known speed, or nil.
      def teeth_by_speed
        return unless speed_km_h && circumference_m && analysis["tooth_hz"]

        Gadwall::Quantity::WheelGeometry.teeth(
          frequency_hz: analysis["tooth_hz"],
          speed_km_h: speed_km_h,
          circumference_m: circumference_m
        )
      end

      # Hz that the ring of this capture should give at the known speed.
      def frequency_by_speed
        Gadwall::Quantity::WheelGeometry.frequency_hz(
          speed_km_h: speed_km_h,
          circumference_m: circumference_m,
          teeth: analysis["teeth"]
        )
      end

      private

      # In tooth periods.
      def gap
        findings
          .flat_map do |row|
            if row["kind"] == "wide_gap"
              [row["gap_ratio"]]
            elsif row["kind"] == "missing_teeth"
              row["teeth"].sort.slice_when { |a, b| b != a + 1 }.map { |run| run.size + 1.0 }
            else
              []
            end
          end
          .max
      end
    end
  end
end
