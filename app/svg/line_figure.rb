# frozen_string_literal: true

module Web
  module Svg
    # A circuit drawn in the order in which a hand would follow it: module, joints and sections in turn, part, ring.
    # What is sound, suspect or unknown is told by line, mark and word, and only then by colour.
    class LineFigure
      WIDTH = 1200
      HEIGHT = 228
      WIRES_Y = [92.0, 132.0].freeze
      MARKS = { "sound" => "sound", "suspect" => "suspect", "unknown" => "not known" }.freeze
      GAP = 15.0 # half of the gap of a joint taken apart

      # line: Gadwall::Circuits::Line; title: of the circuit; standings: {place => [standing, probability]};
      # probes: node names of the next test; apart: ids of joints that the test wants apart.
      def initialize(line, title:, standings:, probes: [], apart: [])
        @line = line
        @title = title
        @standings = standings
        @probes = probes.map { |probe| line.node(probe) }
        @apart = apart
        @svg = Element.new
      end

      def to_s
        @svg.tag(:svg, viewBox: "0 0 #{WIDTH} #{HEIGHT}", role: "img", class: "line-figure", aria_labelledby: "line-title line-desc") do
          @svg.tag(:title, "Circuit #{@title}", id: "line-title")
          @svg.tag(:desc, description, id: "line-desc")
          hatching
          sections
          joints
          head
          tail
          ring if @line.ring?
          probes
        end
        @svg.to_s
      end

      private

      def left
        132.0
      end

      def right
        @line.ring? ? 1010.0 : 1060.0
      end

      # Joints are spread evenly between head and tail.
      def x_of(joint)
        index = @line.joints.index(joint)
        span = right - left
        left + 50 + ((span - 100) * index / (@line.joints.size - 1).to_f)
      end

      def standing(place)
        @standings.fetch(place, ["unknown", 0.0])
      end

      def description
        @line.places.map { |place| "#{name_of(place)}: #{MARKS[standing(place).first]}" }.join("; ")
      end

      def name_of(place)
        return @line.template["head"]["name"] if place == @line.template["head"]["id"]
        return @line.template["tail"]["name"] if place == @line.template["tail"]["id"]

        joint = @line.joints.find { |each| each.id == place } and return joint.name
        section = @line.sections.find { |each| each.id == place } and return "lead #{section.from.name} to #{section.to.name}"
        "tone ring"
      end

      def hatching
        @svg.tag(:defs) do
          @svg.tag(:pattern, id: "hatch", width: 8, height: 8, patternUnits: "userSpaceOnUse", patternTransform: "rotate(45)") do
            @svg.tag(:rect, width: 3, height: 8, class: "hatch-stroke")
          end
        end
      end

      def sections
        @line.sections.each do |section|
          from = x_of(section.from) + gap(section.from)
          to = x_of(section.to) - gap(section.to)
          state, = standing(section.id)
          band(from + 14, to - 14, state)
          @line.wires.each_with_index { |wire, i| wire(wire, i, from, to, state) }
          label((from + to) / 2, section.id, "#{section.length_m.to_s.delete_suffix('.0')} m#{', moves' if section.flexes}")
        end
      end

      def gap(joint)
        @apart.include?(joint.id) ? GAP + 9 : 9
      end

      def band(from, to, state)
        return unless state == "suspect"

        @svg.tag(:rect, x: from, y: WIRES_Y[0] - 15, width: [to - from, 4].max, height: WIRES_Y[1] - WIRES_Y[0] + 30, class: "suspect-band")
      end

      def wire(wire, index, from, to, state)
        @svg.tag(:line, x1: from, x2: to, y1: WIRES_Y[index], y2: WIRES_Y[index], class: "wire #{state}")
        @svg.tag(:text, "#{wire.name.delete_suffix(' wire')} #{wire.colour}", x: (from + to) / 2, y: WIRES_Y[index] + (index.zero? ? -6 : 15), class: "wire-name")
      end

      # Place mark below the wires: a word, a shape and, for suspects, the chance.
      def label(x, place, small)
        state, probability = standing(place)
        mark(x, 181, state)
        @svg.tag(:text, state == "suspect" ? share(probability) : MARKS[state], x: x, y: 206, class: "place-mark #{state}")
        @svg.tag(:text, small, x: x, y: 223, class: "place-note") if small
      end

      # Never a false 100.
      def share(probability)
        probability > 0.99 ? "99+ %" : "#{(probability * 100).round} %"
      end

      # A tick, a diamond, or an open ring.
      def mark(x, y, state)
        case state
        when "sound" then @svg.tag(:path, d: "M#{x - 7} #{y} l5 6 l10 -12", class: "mark sound")
        when "suspect" then @svg.tag(:path, d: "M#{x} #{y - 9} l9 9 l-9 9 l-9 -9 z", class: "mark suspect")
        else @svg.tag(:circle, cx: x, cy: y, r: 5, class: "mark unknown")
        end
      end

      def joints
        @line.joints.each do |joint|
          x = x_of(joint)
          state, = standing(joint.id)
          half(x - (@apart.include?(joint.id) ? GAP : 0), -1, state)
          half(x + (@apart.include?(joint.id) ? GAP : 0), 1, state)
          @svg.tag(:text, joint.name, x: x, y: 38, class: "joint-name")
          @svg.tag(:text, "pins #{@line.wires.map { |wire| joint.pins[wire.id] || '?' }.join(', ')}#{' · apart' if @apart.include?(joint.id)}", x: x, y: 55, class: "place-note")
          label(x, joint.id, nil)
        end
      end

      def half(x, side, state)
        outer = x + (9 * side)
        @svg.tag(:path, d: "M#{x} #{WIRES_Y[0] - 22} H#{outer} V#{WIRES_Y[1] + 22} H#{x} Z", class: "joint #{state}")
      end

      def head
        state, = standing(@line.template["head"]["id"])
        @svg.tag(:rect, x: 14, y: WIRES_Y[0] - 34, width: 104, height: WIRES_Y[1] - WIRES_Y[0] + 68, class: "box #{state}")
        @svg.tag(:text, head_words[0], x: 66, y: 108, class: "box-name")
        @svg.tag(:text, head_words[1], x: 66, y: 126, class: "box-name") if head_words[1]
        stubs(118, x_of(@line.joints.first) - gap(@line.joints.first))
        label(66, @line.template["head"]["id"], nil)
      end

      def head_words
        @line.template["head"]["name"].split(" ", 2)
      end

      def stubs(from, to)
        WIRES_Y.first(@line.wires.size).each { |y| @svg.tag(:line, x1: from, x2: to, y1: y, y2: y, class: "stub") }
      end

      def tail
        place = @line.template["tail"]["id"]
        state, = standing(place)
        start = x_of(@line.joints.last) + gap(@line.joints.last)
        stubs(start, right + 4)
        @svg.tag(:rect, x: right + 4, y: WIRES_Y[0] - 24, width: 76, height: WIRES_Y[1] - WIRES_Y[0] + 48, rx: 6, class: "box #{state}")
        @svg.tag(:text, @line.template["tail"]["name"].split.last, x: right + 42, y: 117, class: "box-name")
        label(right + 42, place, nil)
      end

      def ring
        state, = standing("ring")
        cx = 1146.0
        cy = 112.0
        teeth = (0...20).map { |i| tooth(cx, cy, i * 18) }
        @svg.tag(:path, d: "M#{teeth.flatten(1).map { |x, y| "#{x.round(1)} #{y.round(1)}" }.join(' L')} Z", class: "ring #{state}")
        @svg.tag(:circle, cx: cx, cy: cy, r: 19, class: "ring-bore")
        @svg.tag(:text, "ring", x: cx, y: 55, class: "place-note")
        label(cx, "ring", nil)
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
          @svg.tag(:line, x1: x, y1: y, x2: x, y2: 76.0, class: "probe-lead") if y > 80
          @svg.tag(:circle, cx: x, cy: y, r: 5, class: "probe-tip")
          @svg.tag(:path, d: "M#{x} #{y} L#{x - 11} #{y - 26} H#{x + 11} Z", class: "probe-flag")
          @svg.tag(:text, (index + 1).to_s, x: x, y: y - 13, class: "probe-number")
        end
      end

      def position(node)
        return [66.0, 50.0] if node == Gadwall::Circuits::Network::GROUND # the body of the vehicle

        wire, place = node.split("@")
        joint_id, side = place.split(".")
        joint = @line.joint(joint_id)
        shift = gap(joint) * (side == "head" ? -1 : 1)
        [x_of(joint) + shift, WIRES_Y[@line.wires.index { |each| each.id == wire }]]
      end
    end
  end
end
