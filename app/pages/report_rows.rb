# frozen_string_literal: true

module Web
  module Pages
    # Rows of the report's tables: steps with figures beside their limits, parts, parameters, set-up runs, hours. Part
    # of ReportPage, which has the dossier.
    module ReportRows
      # [[step, what was entered, its limits, who], ...], a row for each figure.
      def step_rows
        return [] unless dossier.plan

        dossier.plan.rows.select(&:done?).flat_map { |row| rows_of(row) }
      end

      # Lines of the match cards: [[what, old, new, why it fits], ...].
      def match_rows
        return [] unless dossier.plan

        dossier
          .plan
          .rows
          .select(&:done?)
          .flat_map do |row|
            row.step.compare.filter_map do |line|
              old, new, why = %w[old new reason].map { |part| row.values["#{line["id"]}.#{part}"] }
              [line["label"], old, new, why.to_s] if old
            end
          end
      end

      # Heads of the parameter table: the sources that there are.
      def parameter_head
        ["Parameter", *parameter_sets.keys.map { |source| SOURCES[source] }]
      end

      # Parameters as they were last kept of each source: [[name, value, ...], ...].
      def parameter_rows
        Gadwall::Repair::ParameterSets
          .compare(parameter_sets)
          .map { |line| [line.name, *parameter_sets.keys.map { |source| line.values[source].to_s }] }
      end

      # [[routine, tool, result, figures or refusal], ...].
      def set_up_rows
        dossier
          .log
          .of("set_up")
          .map do |run|
            refusal = run.code && "refused: #{dossier.catalogue.refusal(run.code)}"
            figures = [run.before, run.after].compact.join(" to ")
            [run.routine, run.tool, run.result, [figures, refusal, run.note].compact.reject(&:empty?).join("; ")]
          end
      end

      # Pads as they were last measured: [[corner, inner and outer, what they tell, how far they go], ...].
      def pad_rows
        entry = dossier.log.of("pads").last or return []
        judgement = Gadwall::Pads::Judgement.new(entry.sheet, new_at: entry.new_at)
        entry.sheet.corners.map { |corner| pad_row(entry.sheet, judgement, corner) }
      end

      # One corner of them.
      def pad_row(sheet, judgement, corner)
        linings =
          Gadwall::Pads::Sheet::PLACES.filter_map do |place|
            millimetres = sheet.lining(corner, place)
            "#{place} #{@preferences.in_text("#{format("%.1f", millimetres)} mm")}" if millimetres
          end
        told = judgement.findings.select { |row| row.corner == corner }
        told = told.map { |row| @preferences.in_text("#{row.says}: #{row.cause}") }
        left = judgement.left[corner]
        far = left ? "#{left.low} to #{left.high || "?"} km" : ""
        [Gadwall::Vehicle::CORNERS.fetch(corner), linings.join(", "), told.join("; "), far]
      end

      # [[stage, time], ...], wrong turns last.
      def effort_rows
        effort = Gadwall::Job::Effort.new(dossier)
        rows = effort.stages.map { |name, minutes| [name, "#{minutes} min"] }
        return rows if effort.wrong_turns.zero?

        rows +
          [["of the tracing, on circuits that were sound", "#{effort.wrong_turns} min, #{effort.wrong_turns_cost}"]]
      end

      private

      SOURCES = Gadwall::Job::Entries::Parameters::SOURCES

      def rows_of(row)
        return [[row.title, "not needed: #{row.reason}", "", row.signed_by.to_s]] if row.state == "not_needed"
        return [[row.title, "signed", "", row.signed_by.to_s]] if row.figures.empty?

        row.figures.each_with_index.map do |entered, i|
          text, limits = entered.shown(@preferences)
          [i.zero? ? row.title : "", "#{entered.label}: #{text}", limits.to_s, i.zero? ? row.signed_by.to_s : ""]
        end
      end

      def parameter_sets
        Gadwall::Job::Entries::Parameters.latest(dossier.log.of("parameters")).compact
      end
    end
  end
end
