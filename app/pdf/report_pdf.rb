# frozen_string_literal: true

require "prawn"
require "prawn/table"
require "prawn-svg"

module Web
  module Pdf
    # The report as a document, from the same page object as the screen: one page for the customer, then the
    # technician's. Drawings are vectors.
    class ReportPdf
      FONTS = File.expand_path("../fonts", __dir__)
      INK = "1B1815"
      QUIET = "5A5248"
      RULE = "B5AA9A"
      ACCENT = "9C3D0D"
      MARGIN = 48
      SIGNS = {
        "Ω" => "ohm",
        "−" => "-",
        "≠" => "differs:",
        "✓" => "ok",
        "✕" => "failed",
        "→" => "to",
        "…" => "..."
      }.freeze
      # What the screen's style sheet says of the drawings, for paper.
      STYLE = <<~CSS
        line, polyline, path, rect, circle { fill: none; stroke: #1b1815; stroke-width: 1.5 }
        text { fill: #1b1815; stroke: none; font-family: Reader; font-size: 15px; text-anchor: middle }
        .wire.ok, .connector.ok, .box.ok { stroke: #14605a; stroke-width: 3 }
        .wire.suspect, .connector.suspect, .box.suspect, .ring.suspect { stroke: #9c3d0d; stroke-width: 4 }
        .suspect-band { fill: #f3dfcf; stroke: none }
        .wire.unknown, .connector.unknown, .box.unknown { stroke: #6f665b; stroke-dasharray: 6 4 }
        .mark { stroke-width: 3 } .stub { stroke: #b5aa9a }
        .trace-limit { stroke: #9c3d0d; stroke-dasharray: 6 4 }
        .strip-grid { stroke: #d8d0c3 } .strip-edge { stroke: #b5aa9a }
        .strip-leg { fill: #f3dfcf; stroke: #6f665b }
        .strip-leg.pass { fill: #14605a } .strip-leg.fail { fill: #7a1f1f }
        .strip-axis, .strip-title, .strip-small { text-anchor: start; font-size: 13px }
        .strip-post { fill: #1b1815 } .strip-number { text-anchor: end }
      CSS

      # page: Pages::ReportPage; money: Proc that writes an amount.
      def initialize(page, money:, card: nil)
        @page = page
        @money = money
        @card = card
      end

      # The document as bytes. The same report gives the same bytes.
      def to_s
        @pdf = Prawn::Document.new(page_size: "A4", margin: MARGIN, info: info)
        fonts
        customer
        @pdf.start_new_page
        technician
        footer
        @pdf.render
      end

      private

      attr_reader :page, :pdf

      def info
        { Title: "#{page.number} #{page.vehicle_name}", Creator: "Gadwall", CreationDate: page.dated }
      end

      def fonts
        pdf.font_families.update(
          "Reader" => {
            normal: font("Next_400Regular"),
            bold: font("Next_700Bold")
          },
          "Figures" => {
            normal: font("Mono_400Regular"),
            bold: font("Mono_600SemiBold")
          },
          **Letters::FALLBACKS.transform_values { |file| faces(File.join(FONTS, file)) }
        )
        pdf.fallback_fonts Letters::FALLBACKS.keys
        pdf.font "Reader"
        pdf.font_size 10.5
        pdf.default_leading 2
        pdf.fill_color INK
      end

      def font(name)
        File.join(FONTS, "AtkinsonHyperlegible#{name}.ttf")
      end

      # One file for every style, where a family has no other.
      def faces(file)
        { normal: file, bold: file, italic: file, bold_italic: file }
      end

      # Signs that the typeface does not have are written out.
      def plain(text)
        letters.printable(SIGNS.reduce(text.to_s) { |words, (sign, written)| words.gsub(sign, written) })
      end

      def letters
        @letters ||=
          Letters.new do |letter|
            ["Reader", *Letters::FALLBACKS.keys].any? { |family| pdf.find_font(family).glyph_present?(letter) }
          end
      end

      # What no typeface has is told, so that nothing vanishes unseen.
      def unprinted
        return if letters.missing.empty?

        signs = letters.missing.map { |letter| format("U+%04X", letter.ord) }
        heading "Not printed"
        say "No typeface here has #{signs.join(", ")}; #{Letters::BOX} stands in its place. The case file has it.",
            size: 9
      end

      def pads
        return if page.pad_rows.empty?

        heading "Pads and discs"
        table page.pad_rows, widths: [0.15, 0.25, 0.4, 0.2], header: ["Corner", "Lining", "Tells", "Goes on for"]
      end

      def heading(text)
        pdf.move_down 8
        pdf.text plain(text), size: 12.5, style: :bold
        pdf.stroke_color RULE
        pdf.stroke_horizontal_rule
        pdf.move_down 4
      end

      def say(text, **options)
        pdf.text plain(text), **options
      end

      def list(texts)
        texts.each { |text| pdf.indent(8) { say("• #{text}") } }
      end

      # rows: Array of Arrays of texts; widths: shares.
      def table(rows, widths:, header: nil)
        return if rows.empty?

        data = (header ? [header] : []) + rows
        whole = pdf.bounds.width
        pdf.table(
          data.map { |row| row.map { |cell| plain(cell) } },
          header: !header.nil?,
          column_widths: widths.map { |share| whole * share },
          cell_style: {
            borders: [:bottom],
            border_color: RULE,
            border_width: 0.5,
            padding: [2, 6, 2, 0],
            size: 9
          }
        ) { row(0).font_style = :bold if header }
        pdf.move_down 4
      end

      def drawing(svg)
        return unless svg

        open = "<svg xmlns=\"http://www.w3.org/2000/svg\""
        styled = svg.sub(/<svg([^>]*)>/) { "#{open}#{::Regexp.last_match(1)}><style>#{STYLE}</style>" }
        pdf.move_down 4
        pdf.svg plain(styled), width: pdf.bounds.width, enable_web_requests: false, enable_file_requests_with_root: nil
        pdf.move_down 4
      end

      # Who did the work: {"name", "address"}.
      def shop
        say @card["name"], style: :bold
        say @card["address"].lines.map(&:strip).reject(&:empty?).join(", "), color: QUIET
        pdf.move_down 8
      end

      def customer
        shop if @card
        say "What was wrong, and what was done", size: 20, style: :bold
        say page.identity, color: QUIET
        say page.simulated_words, style: :bold, color: ACCENT if page.simulated?
        heading "You told us"
        say page.complaint
        heading "We found"
        page.findings.each { |finding| say "#{capital(finding.text)}.", size: 13, style: :bold }
        say page.sure
        heading "We did"
        say "Nothing yet." if page.choices.empty?
        page.choices.each { |choice| say "#{choice.plain || choice.name} #{@money.call(choice.cost) if choice.cost}" }
        page.warnings.each { |text| say text, style: :bold, color: ACCENT }
        heading "We checked"
        list(page.customer_checks.map { |row| "#{row.title}: #{row.result}" })
        heading "Please watch"
        back = "If the warning lamp comes back, note when: speed, wet or dry, braking or not."
        say [page.told, back].compact.join(" ")
        say "Wheel bolts: #{page.wheel_torque}." if page.wheel_torque
        pdf.move_down 34
        say "Workshop ______________________      Customer ______________________"
      end

      def technician
        say "For the next technician", size: 16, style: :bold
        say page.identity, color: QUIET
        say page.simulated_words, style: :bold, color: ACCENT if page.simulated?
        heading "DTCs before"
        codes page.codes_before
        heading "Tests, in order"
        table page.tests.map { |row| [row.seq.to_s, capital(row.title), row.result, row.sound.to_s, row.support] },
              widths: [0.06, 0.42, 0.16, 0.18, 0.18],
              header: ["#", "Test", "Result", "Without fault", "Support"]
        diagnosis
        repair
        proof
        rest
        unprinted
      end

      def codes(list)
        say "None." if list.empty?
        table list.map { |code| [code.word, code.status.to_s, capital(code.text.to_s)] }, widths: [0.2, 0.18, 0.62]
      end

      def diagnosis
        heading "Diagnosis and why"
        page.findings.each do |finding|
          say "#{capital(finding.state)}: #{finding.text}, #{page.chance(finding)}.", style: :bold
          list finding.why
        end
        page.drawings.each { |svg| drawing(svg) }
        page.traces.each do |name, said, svg|
          say "#{name}: #{said}"
          drawing(svg)
        end
      end

      def repair
        pads
        return if page.step_rows.empty?

        heading "Steps signed off"
        table page.step_rows, widths: [0.4, 0.28, 0.18, 0.14], header: %w[Step Entered Limits By]
        if page.match_rows.any?
          heading "Parts, old against new"
          table page.match_rows, widths: [0.3, 0.25, 0.25, 0.2], header: ["What", "Old", "New", "Why it fits"]
        end
        if page.parameter_rows.any?
          heading "Parameters"
          columns = page.parameter_head.size - 1
          table page.parameter_rows, widths: [0.28, *[0.72 / columns] * columns], header: page.parameter_head
        end
        return if page.set_up_rows.empty?

        heading "Set-up routines run"
        table page.set_up_rows, widths: [0.34, 0.2, 0.12, 0.34], header: %w[Routine Tool Result Figures]
      end

      def proof
        return if page.checks.empty?

        heading "Proof"
        drawing page.strip
        table page.checks.map { |row| [row.title, row.result, row.detail.to_s] }, widths: [0.5, 0.15, 0.35]
        heading "DTCs after"
        codes page.codes_after
        say page.scan_counts if page.scan_counts
      end

      def rest
        if page.effort_rows.any?
          heading "Hours by stage"
          table page.effort_rows, widths: [0.5, 0.5]
        end
        return if page.notes.empty?

        heading "Notes"
        list(page.notes.map { |kind, text, who, _| "#{kind}: #{text} (#{who})" })
      end

      def footer
        pdf.number_pages "#{plain(page.number)}   page <page> of <total>",
                         at: [pdf.bounds.left, -18],
                         size: 8,
                         color: QUIET
      end

      def capital(text)
        text.sub(/\A\p{Ll}/, &:upcase)
      end
    end
  end
end
