# frozen_string_literal: true

module Web
  module Svg
    # A circuit drawn in the order in which a hand would follow it: head, connectors and sections in turn, tail, and
    # beside them whatever else can be at fault (a ring, a relay, who hangs on a bus). Any number of wires and
    # connectors; none at all where nothing but pressure runs between the parts.
    # What is sound, suspect or unknown is told by harness, mark and word, and only then by colour.
    class HarnessFigure
      WIDTH = 1200
      ROLE = "img" # what can be touched is a group
      GAP = 15.0 # half of the gap of a connector taken apart

      # harness: Gadwall::Circuits::Harness; title: of the circuit; place_states: {place => [standing, probability]};
      # probes: node names of the next test; disconnected: ids of connectors that the test wants disconnected.
      def initialize(harness, title:, place_states:, probes: [], disconnected: [])
        @harness = harness
        @title = title
        @layout = HarnessLayout.new(harness)
        @probes = probes.map { |probe| harness.node(probe) }
        @disconnected = disconnected
        @svg = Element.new
        @marks = PlaceMarks.new(@svg, @layout, place_states)
      end

      def to_s
        @svg.tag(
          :svg,
          viewBox: "0 0 #{WIDTH} #{height.round}",
          role: self.class::ROLE,
          class: "harness-figure",
          aria_labelledby: "harness-title harness-desc"
        ) do
          @svg.tag(:title, "Circuit #{@title}", id: "harness-title")
          @svg.tag(:desc, description, id: "harness-desc")
          @svg.hatching("hatch")
          sections
          pipes if @harness.connectors.empty?
          connectors
          members
          head
          tail
          extras
          probes
        end
        @svg.to_s
      end

      private

      def height
        @layout.height
      end

      def description
        @harness
          .places
          .map { |place| "#{@harness.place_name(place)}: #{PlaceMarks::WORDS[@marks.state_of(place).first]}" }
          .join("; ")
      end

      def sections
        @harness.sections.each do |section|
          from = @layout.x_of(section.from) + gap(section.from)
          to = @layout.x_of(section.to) - gap(section.to)
          state, = @marks.state_of(section.id)
          band(from + 14, to - 14, state)
          @harness.wires.each_with_index { |wire, i| wire(wire, i, from, to, state) }
          next if section.wires.empty?

          @marks.label(
            (from + to) / 2,
            section.id,
            "#{section.length_m.to_s.delete_suffix(".0")} m#{", flexes" if section.flexes}"
          )
        end
      end

      def gap(connector)
        @disconnected.include?(connector.id) ? GAP + 9 : 9
      end

      def band(from, to, state)
        return unless state == "suspect"

        @svg.tag(
          :rect,
          x: from,
          y: @layout.top - 15,
          width: [to - from, 4].max,
          height: @layout.bottom - @layout.top + 30,
          class: "suspect-band"
        )
      end

      def wire(wire, index, from, to, state)
        y = @layout.wires_y[index]
        @svg.tag(:line, x1: from, x2: to, y1: y, y2: y, class: "wire #{state}")
        last = index == @harness.wires.size - 1 && index.positive?
        @svg.tag(
          :text,
          "#{wire.name.delete_suffix(" wire")} #{wire.colour}",
          x: (from + to) / 2,
          y: y + (last ? 15 : -6),
          class: "wire-name"
        )
      end

      # Pressure between parts that no wire joins.
      def pipes
        @svg.tag(
          :path,
          d: "M118 #{@layout.middle - 6} H#{@layout.right + 4} M118 #{@layout.middle + 6} H#{@layout.right + 4}",
          class: "stub"
        )
      end

      def connectors
        @harness.connectors.each_with_index do |connector, i|
          x = @layout.x_of(connector)
          state, = @marks.state_of(connector.id)
          disconnected = @disconnected.include?(connector.id)
          half(x - (disconnected ? GAP : 0), -1, state)
          half(x + (disconnected ? GAP : 0), 1, state)
          @svg.tag(:text, connector.name, x: x, y: @layout.name_y(i), class: "connector-name")
          pins = @harness.wires.map { |wire| connector.pins[wire.id] || "?" }.join(", ")
          @svg.tag(:text, "pins #{pins}#{" · disconnected" if disconnected}", x: x, y: 55, class: "place-note")
          @marks.label(x, connector.id, nil)
        end
      end

      def half(x, side, state)
        @svg.tag(
          :path,
          d: "M#{x} #{@layout.top - 22} H#{x + (9 * side)} V#{@layout.bottom + 22} H#{x} Z",
          class: "connector #{state}"
        )
      end

      # Who hangs on a bus, each below its connector.
      def members
        @harness.modules.each do |id, connector|
          x = @layout.x_of(connector)
          y = @layout.member_y
          state, probability = @marks.state_of(id)
          @svg.tag(:path, d: "M#{x - 9} #{@layout.bottom + 14} H#{x - 48} V#{y}", class: "stub")
          @svg.tag(:rect, x: x - 78, y: y, width: 156, height: 36, class: "box #{state}")
          @svg.tag(
            :text,
            [@harness.module_name(id), (@marks.word(state, probability) if state == "suspect")].compact.join(" "),
            x: x,
            y: y + 23,
            class: "member-name #{state}"
          )
        end
      end

      def head
        box(@harness.template["near_end"], 14, 104, 66)
        stubs(
          118,
          @harness.connectors.any? ? @layout.x_of(@harness.connectors.first) - gap(@harness.connectors.first) : 118
        )
      end

      def tail
        start =
          if @harness.connectors.any?
            @layout.x_of(@harness.connectors.last) + gap(@harness.connectors.last)
          else
            @layout.right + 4
          end
        stubs(start, @layout.right + 4)
        box(@harness.template["far_end"], @layout.right + 4, 96, @layout.right + 52)
      end

      def box(part, x, width, centre)
        state, = @marks.state_of(part["id"])
        @svg.tag(
          :rect,
          x: x,
          y: @layout.top - 34,
          width: width,
          height: @layout.bottom - @layout.top + 68,
          rx: 5,
          class: "box #{state}"
        )
        harnesses(part["name"]).each_with_index do |words, i|
          @svg.tag(
            :text,
            words,
            x: centre,
            y: @layout.middle + ((i - ((harnesses(part["name"]).size - 1) / 2.0)) * 18) + 5,
            class: "box-name"
          )
        end
        @marks.label(centre, part["id"], nil)
      end

      # A name in harnesses of at most some twelve letters, three at the most.
      def harnesses(name)
        name
          .split(/[ ,]+/)
          .each_with_object([+""]) do |word, rows|
            if rows.last.empty? || (rows.last.size + word.size < 12) || rows.size == 3
              rows.last << (rows.last.empty? ? "" : " ") << word
            else
              rows << +word
            end
          end
      end

      def stubs(from, to)
        @layout.wires_y.each { |y| @svg.tag(:line, x1: from, x2: to, y1: y, y2: y, class: "stub") } if to > from
      end

      # A ring as a ring, other parts as boxes one below the other.
      def extras
        return ring if @harness.ring?

        @harness.extras.each_with_index do |extra, i|
          state, probability = @marks.state_of(extra["id"])
          x, y, height = @layout.extra(i)
          @svg.tag(:rect, x: x, y: y, width: 150, height: height, rx: 3, class: "box #{state}")
          @svg.tag(
            :text,
            extra["name"],
            x: x + 75,
            y: y + (height / 2) - 2,
            class: extra["name"].size > 19 ? "extra-name long" : "extra-name"
          )
          @svg.tag(
            :text,
            @marks.word(state, probability),
            x: x + 75,
            y: y + (height / 2) + 15,
            class: "place-mark #{state}"
          )
        end
      end

      def ring
        state, = @marks.state_of("ring")
        cx = 1146.0
        cy = @layout.middle
        teeth = (0...20).map { |i| tooth(cx, cy, i * 18) }
        @svg.tag(
          :path,
          d: "M#{teeth.flatten(1).map { |x, y| "#{x.round(1)} #{y.round(1)}" }.join(" L")} Z",
          class: "ring #{state}"
        )
        @svg.tag(:circle, cx: cx, cy: cy, r: 19, class: "ring-bore")
        @svg.tag(:text, "ring", x: cx, y: 55, class: "place-note")
        @marks.label(cx, "ring", nil)
      end

      def tooth(cx, cy, degrees)
        [[degrees - 5, 33], [degrees - 4, 41], [degrees + 4, 41], [degrees + 5, 33]].map do |angle, radius|
          [cx + (radius * Math.cos(angle * Math::PI / 180)), cy + (radius * Math.sin(angle * Math::PI / 180))]
        end
      end

      # Where the probes of the next test go: flags 1 and 2.
      def probes
        @probes.each_with_index { |node, i| probe(node, i) }
      end

      def probe(node, index)
        x, y = position(node)
        @svg.tag(:g, class: "probe") do
          @svg.tag(:line, x1: x, y1: y, x2: x, y2: @layout.top - 16, class: "probe-lead") if y > @layout.top
          @svg.tag(:circle, cx: x, cy: y, r: 5, class: "probe-tip")
          @svg.tag(:path, d: "M#{x} #{y} L#{x - 11} #{y - 26} H#{x + 11} Z", class: "probe-flag")
          @svg.tag(:text, (index + 1).to_s, x: x, y: y - 13, class: "probe-number")
        end
      end

      def position(node)
        wire, place = node.split("@")
        return 66.0, 50.0 if place.nil? # the body of the vehicle, or a rail that stands for it

        connector_id, side = place.split(".")
        connector = @harness.connector(connector_id)
        [
          @layout.x_of(connector) + (gap(connector) * (side == "near" ? -1 : 1)),
          @layout.wires_y[@harness.wires.index { |each| each.id == wire }]
        ]
      end
    end
  end
end
