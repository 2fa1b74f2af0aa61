# frozen_string_literal: true

module Gadwall
  # Every circuit of data/circuits as Markdown, with its drawing in text, its figures and their sources, its parts
  # with their shares and its tests: docs/circuits.md. Made from the data, so that it says what the program uses.
  class CircuitBook
    WIDTH = 118
    HEAD = <<~TEXT
      # Circuits

      Made from `data/` by `bin/circuits`; not edited by hand. From the module or supply down to the part, as a hand
      would follow the harness: connectors in brackets with the pin of each wire, lengths of the sections between
      them. What a figure's source is stands behind it; the percentage is one sigma of sound parts.
    TEXT

    def initialize(catalogue)
      @catalogue = catalogue
    end

    # The whole book as text.
    def to_s
      "#{[HEAD, *@catalogue.circuits.keys.sort.map { |id| chapter(id) }].join("\n")}\n"
    end

    private

    def chapter(id)
      template = @catalogue.circuits.fetch(id)
      harness = Circuits::Harness.new(template, {}, @catalogue)
      [
        "## #{template["name"]} (`#{id}`)\n",
        "```text\n#{drawing(harness)}\n```\n",
        *listed("Figures", (template["values"] || {}).map { |name, value| figure(name, value) }),
        *listed("Parts, their share of the circuit's faults, how they fail", parts(harness)),
        wrapped("Shares: #{template["shares"]["source"]}.\n"),
        wrapped("Tests: #{tests(harness).map { |name| "`#{name}`" }.join(", ")}.\n"),
        wrapped("Source: #{template["source"]}.\n")
      ].join("\n")
    end

    def drawing(harness)
      way =
        harness.connectors.each_with_index.flat_map do |connector, i|
          section = harness.sections[i]
          run = section && "   |  #{format("%g", section.length_m)} m#{", flexes" if section.flexes}"
          ["  [#{connector.name}]  #{pins(harness, connector)}", run].compact
        end
      wires =
        harness.wires.map { |wire| "  #{wire.name}: #{wire.colour}#{", from #{wire.starts_at}" if wire.starts_at}" }
      beside = harness.extras.map { |extra| extra["name"] }
      [
        harness.template["near_end"]["name"],
        *way,
        harness.template["far_end"]["name"],
        *wires,
        *(wrapped("beside it: #{beside.join(", ")}").gsub(/^ */, "  ") if beside.any?)
      ].join("\n")
    end

    def pins(harness, connector)
      carried = harness.wires.select { |wire| connector.carries?(wire) }
      carried.map { |wire| "#{wire.id.tr("_", " ")} #{connector.pins.fetch(wire.id, "?")}" }.join(", ")
    end

    def figure(name, value)
      spread = ", #{format("%g", value["tolerance"] * 100)} %" if value["tolerance"]
      "#{name.tr("_", " ")}: #{format("%g", value["value"])} #{value["unit"]}#{spread} (#{value["source"]})"
    end

    def parts(harness)
      faults = Circuits::FaultList.for(harness, @catalogue)
      whole = faults.sum(&:rate)
      faults
        .group_by(&:place)
        .map do |place, same|
          ways = same.map { |fault| fault.mode.tr("_", " ") }.uniq.join(", ")
          "#{harness.place_name(place)}: #{(100 * same.sum(&:rate) / whole).round(1)} % (#{ways})"
        end
    end

    def tests(harness)
      Tests::Expansion.tests(harness, @catalogue).map { |test| test.record["id"] }.uniq
    end

    def listed(title, rows)
      rows.empty? ? [] : ["#{title}:\n", "#{rows.map { |row| wrapped("- #{row}") }.join("\n")}\n"]
    end

    # Lines of at most WIDTH letters, those that follow indented in a list.
    def wrapped(text)
      indent = text.start_with?("- ") ? "  " : ""
      lines = [+""]
      text.chomp.split.each do |word|
        lines << +indent.dup if lines.last.length + word.length + 1 > WIDTH
        lines.last << (lines.last.strip.empty? ? "" : " ") << word
      end
      "#{lines.join("\n")}#{"\n" if text.end_with?("\n")}"
    end
  end
end
