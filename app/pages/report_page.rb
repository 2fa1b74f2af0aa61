# frozen_string_literal: true

module Web
  module Pages
    # The report: one page for the customer, then the technician's. Once decided it is made of what was signed.
    class ReportPage < Page
      include ReportRows
      include Helpers::Words

      # A test of the log in words. sound: what a circuit without fault shows; support: what it said for or against the
      # suspect, in words.
      TestRow = Struct.new(:seq, :title, :result, :sound, :support, :by, keyword_init: true)
      # A conclusion: text, state ("proven", "likely", "undetermined"), probability, why.
      Finding = Struct.new(:text, :state, :probability, :why, keyword_init: true)
      # What is said on the customer's page of each check.
      CheckRow = Struct.new(:title, :result, :detail, keyword_init: true)
      STATES = { "open" => "undetermined", "likely" => "likely", "proven" => "proven" }.freeze
      SURE = {
        "proven" => "Proven by measurement.",
        "likely" => "Likely, by what was measured; not proven in every point.",
        "undetermined" => "Not yet settled."
      }.freeze

      # captures: Array of Store::CaptureStore::StoredCapture of the job; now: Time;
      # preferences: Gadwall::Quantity::Preferences, for quantities.
      def initialize(dossier, now:, preferences:, captures: [], errors: {}, typed: {})
        super(dossier, errors: errors, typed: typed)
        @preferences = preferences
        @captures = captures
        @now = now
      end

      # What captures showed: [[name, findings in words, SVG text], ...].
      def traces
        @captures.reverse.filter_map do |stored|
          figure = Svg::TraceFigure.new(stored.analysis)
          next unless figure.any?

          said = stored.analysis["findings"].to_a.map { |row| @preferences.in_text(row["text"]) }
          [stored.name, said.empty? ? "Nothing found." : said.join(" "), figure.to_s]
        end
      end

      def stage
        "report"
      end

      def taken_in_at
        dossier.record.taken_in_at
      end

      def vin
        dossier.record.vehicle["vin"]
      end

      def simulated_words
        "SIMULATED: what is reported here was read from a simulated vehicle."
      end

      # What names the job, the vehicle and the customer, in a line.
      def identity
        [number, vehicle_name, plate, vin, "for #{customer}"].compact.join(" · ")
      end

      def complaint
        dossier.record.complaint
      end

      # What was found: as signed, or as it stands.
      def findings
        @findings ||= dossier.decisions.any? ? signed : concluded
      end

      def sure
        SURE.fetch(findings.map(&:state).max_by { |state| SURE.keys.index(state) } || "undetermined")
      end

      # Options that were chosen: Array of Gadwall::Decision::Options::Choice.
      def choices
        dossier.decisions.map(&:choice)
      end

      # Warnings that belong to what was chosen.
      def warnings
        choices.filter_map do |choice|
          case choice.safety
          when "sign"
            "Left as it is at the customer's request. ABS and ESC may be off."
          when "temporary"
            "Temporary repair. Please return on the re-check date."
          end
        end
      end

      def checks
        return [] unless dossier.proof

        dossier.proof.items.map do |item|
          detail = item.id == "repeat" ? item.detail : nil
          CheckRow.new(
            title: item.title,
            result:
              if item.done
                item.good ? "pass" : "fail"
              else
                "not done"
              end,
            detail: detail
          )
        end
      end

      # The same for the customer: the legs of the drive in one line.
      def customer_checks
        return [] unless dossier.proof

        legs, others = dossier.proof.items.partition(&:leg)
        titles = legs.map(&:title)
        rows = checks.reject { |row| titles.include?(row.title) && others.none? { |item| item.title == row.title } }
        legs.empty? ? rows : rows + [drive_row(legs)]
      end

      # What the customer was told at the hand-over, or nil.
      def told
        words = handover&.words.to_s
        words.empty? ? nil : words
      end

      # Was a wheel off? Then its bolts are checked again; torque: what was set, in words.
      def wheel_torque
        row = dossier.plan&.rows&.find { |each| %w[wheel_torque torque].include?(each.id) }
        set = row && (row.values["bolts_set"] || row.values["value"])
        told = "set to #{@preferences.in_text("#{set} N·m")}, " unless set.to_s.empty?
        row && "#{told}check again after 50 to 100 km"
      end

      # Scans: codes as Gadwall::Observations::CodeSeen.
      def codes_before
        codes(dossier.log.of("scan").find { |entry| !entry.after? })
      end

      def codes_after
        codes(dossier.log.of("scan").reverse.find(&:after?))
      end

      def scan_counts
        compared = dossier.proof&.comparison
        compared &&
          "#{compared.gone.size} gone, #{compared.stayed.size} stayed, #{compared.new.size} new, " \
            "#{compared.turned_to_history.size} turned to history."
      end

      def tests
        support = support_by_seq
        entries = dossier.log.valid_entries.select { |entry| entry.respond_to?(:test) && entry.evidence? }
        entries.map { |entry| test_row(entry, support[entry.seq]) }
      end

      # Withdrawn entries in words.
      def withdrawn
        dossier.log.entries.filter_map do |entry|
          back = dossier.log.withdrawal(entry.seq)
          back && "entry #{entry.seq} (#{back.reason})"
        end
      end

      # Steps that were signed: [[title, value or reason, who], ...].
      def steps
        return [] unless dossier.plan

        dossier
          .plan
          .rows
          .select(&:done?)
          .map do |row|
            [
              row.title,
              row.state == "not_needed" ? "not needed: #{row.reason}" : row.entered(@preferences),
              row.signed_by
            ]
          end
      end

      # What was noted, and what came after the hand-over: [[kind, text, who, when], ...].
      def notes
        entries =
          dossier.log.valid_entries.select { |entry| %w[note comeback watch_result reopen].include?(entry.kind) }
        entries.map { |entry| [NOTE_KINDS.fetch(entry.kind), note_text(entry), entry.by, entry.at] }
      end

      # Time of the last entry; the document is dated by it.
      def dated
        Time.iso8601(dossier.log.entries.last&.at || dossier.record.taken_in_at)
      end

      # The chance of a finding, in words.
      def chance(finding)
        percent(finding.probability)
      end

      # The circuits that were decided on, drawn with the place marked: Array of SVG texts.
      def drawings
        places = dossier.decisions.flat_map { |each| each.works(dossier).map { |work| [work, each.probability] } }
        places
          .group_by { |work, _| work.circuit }
          .map do |id, works|
            circuit = dossier.system.circuit_named(id)
            states = works.to_h { |work, probability| [work.place, ["suspect", probability]] }
            Svg::HarnessFigure.new(circuit.harness, title: circuit.title, place_states: states).to_s
          end
      end

      # The proof drive as an SVG text, or nil.
      def strip
        proof = dossier.proof
        return if proof.nil? || proof.legs.empty?

        results = proof.items.select(&:leg).to_h { |item| [item.leg.id, item.detail] }
        @preferences.in_svg(Svg::DriveStrip.new(proof.legs, results: results).to_s)
      end

      # Did the vehicle come back?
      def came_back?
        dossier.log.of("comeback").any?
      end

      # Where its watch stands, in words; nil where it has none, or its result was entered.
      def watch
        watch = Gadwall::Job::Watch.of(dossier)
        watch.words(@now) if watch && !watch.ended?
      end

      def handed_over?
        dossier.handed_over?
      end

      private

      NOTE_KINDS = {
        "note" => "Note",
        "comeback" => "Came back",
        "watch_result" => "Watch ended",
        "reopen" => "Diagnosis reopened"
      }.freeze
      WATCHED = {
        "stayed_away" => "fault stayed away",
        "came_back" => "fault came back",
        "not_driven" => "not driven"
      }.freeze

      def note_text(entry)
        case entry.kind
        when "reopen"
          entry.reason
        when "watch_result"
          [WATCHED.fetch(entry.result), entry.words].compact.join(": ")
        when "comeback"
          "#{entry.words}#{" (same complaint)" if entry.same?}"
        else
          entry.words
        end
      end

      def handover
        dossier.log.of("handover").last
      end

      def signed
        dossier.decisions.map do |each|
          Finding.new(text: each.text, state: STATES.fetch(each.state), probability: each.probability, why: each.why)
        end
      end

      def concluded
        return [] if dossier.trouble

        dossier.assessment.verdict.conclusions.map do |each|
          state = STATES.fetch(each.state)
          Finding.new(text: each.suspect.text, state: state, probability: each.probability, why: each.why)
        end
      end

      def codes(entry)
        entry ? dossier.log.scan(entry).codes : []
      end

      # {seq => words}; nothing where the evidence cannot be assessed.
      def support_by_seq
        return {} if dossier.trouble

        dossier.assessment.weights.to_h { |row| [row.observation.seq, row.support || "little support"] }
      end

      def drive_row(legs)
        driven = legs.select(&:done)
        result =
          if driven.empty?
            "not done"
          elsif driven.any? { |item| !item.good }
            "fail"
          else
            driven.size == legs.size ? "pass" : "#{driven.size} of #{legs.size} legs"
          end
        CheckRow.new(title: "Proof drive, #{legs.size} legs", result: result)
      end

      # What a circuit without fault would have shown, in words; nil where it cannot be told.
      def sound(observation)
        return if dossier.trouble

        option = dossier.assessment.option(observation.circuit, observation.test) or return
        option.outcomes.find(&:good)&.label
      end

      def test_row(entry, support)
        observation = dossier.log.observation(entry)
        title = "#{observation.circuit.title}: #{observation.test.title}"
        TestRow.new(
          seq: entry.seq,
          title: title,
          result: observation.typed,
          sound: sound(observation),
          support: support || "",
          by: entry.by
        )
      end
    end
  end
end
