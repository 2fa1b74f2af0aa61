# frozen_string_literal: true

module Web
  module Svg
    # A circuit drawn in the order in which a hand would follow it: head, joints and sections in turn, tail, and beside them
    # whatever else can be at fault (a ring, a relay, who hangs on a bus). Any number of wires and joints; none at all where
    # nothing but pressure runs between the parts.
    # What is sound, suspect or unknown is told by line, mark and word, and only then by colour.
    class LineFigure
      WIDTH = 1200
      GAP = 15.0 # half of the gap of a joint taken apart

      # line: Gadwall::Circuits::Line; title: of the circuit; standings: {place => [standing, probability]};
      # probes: node names of the next test; apart: ids of joints that the test wants apart.
      def initialize(line, title:, standings:, probes: [], apart: [])
        @line = line
        @title = title
        @layout = LineLayout.new(line)
        @probes = probes.map { |probe| line.node(probe) }
        @apart = apart
        @svg = Element.new
        @marks = PlaceMarks.new(@svg, @layout, standings)
      end

      def to_s
        @svg.tag(:svg, viewBox: "0 0 #{WIDTH} #{@layout.height.round}", role: "img", class: "line-figure", aria_labelledby: "line-title line-desc") do
          @svg.tag(:title, "Circuit #{@title}", id: "line-title")
          @svg.tag(:desc, description, id: "line-desc")
          hatching
          sections
          pipes if @line.joints.empty?
          joints
          members
          head
          tail
          extras
          probes
        end
        @svg.to_s
      end

      private

      def description
        @line.places.map { |place| "#{@line.place_name(place)}: #{PlaceMarks::WORDS[@marks.standing(place).first]}" }.join("; ")
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
          from = @layout.x_of(section.from) + gap(section.from)
          to = @layout.x_of(section.to) - gap(section.to)
          state, = @marks.standing(section.id)
          band(from + 14, to - 14, state)
          @line.wires.each_with_index { |wire, i| wire(wire, i, from, to, state) }
          @marks.label((from + to) / 2, section.id, "#{section.length_m.to_s.delete_suffix('.0')} m#{', moves' if section.flexes}")
        end
      end

      def gap(joint)
        @apart.include?(joint.id) ? GAP + 9 : 9
      end

      def band(from, to, state)
        return unless state == "suspect"

        @svg.tag(:rect, x: from, y: @layout.top - 15, width: [to - from, 4].max, height: @layout.bottom - @layout.top + 30, class: "suspect-band")
      end

      def wire(wire, index, from, to, state)
        y = @layout.wires_y[index]
        @svg.tag(:line, x1: from, x2: to, y1: y, y2: y, class: "wire #{state}")
        last = index == @line.wires.size - 1 && index.positive?
        @svg.tag(:text, "#{wire.name.delete_suffix(' wire')} #{wire.colour}", x: (from + to) / 2, y: y + (last ? 15 : -6), class: "wire-name")
      end

      # Pressure between parts that no wire joins.
      def pipes
        @svg.tag(:path, d: "M118 #{@layout.middle - 6} H#{@layout.right + 4} M118 #{@layout.middle + 6} H#{@layout.right + 4}", class: "stub")
      end

      def joints
        @line.joints.each_with_index do |joint, i|
          x = @layout.x_of(joint)
          state, = @marks.standing(joint.id)
          apart = @apart.include?(joint.id)
          half(x - (apart ? GAP : 0), -1, state)
          half(x + (apart ? GAP : 0), 1, state)
          @svg.tag(:text, joint.name, x: x, y: @layout.name_y(i), class: "joint-name")
          pins = @line.wires.map { |wire| joint.pins[wire.id] || "?" }.join(", ")
          @svg.tag(:text, "pins #{pins}#{' · apart' if apart}", x: x, y: 55, class: "place-note")
          @marks.label(x, joint.id, nil)
        end
      end

      def half(x, side, state)
        @svg.tag(:path, d: "M#{x} #{@layout.top - 22} H#{x + (9 * side)} V#{@layout.bottom + 22} H#{x} Z", class: "joint #{state}")
      end

      # Who hangs on a bus, each below its joint.
      def members
        @line.modules.each do |id, joint|
          x = @layout.x_of(joint)
          y = @layout.member_y
          state, probability = @marks.standing(id)
          @svg.tag(:path, d: "M#{x - 9} #{@layout.bottom + 14} H#{x - 48} V#{y}", class: "stub")
          @svg.tag(:rect, x: x - 78, y: y, width: 156, height: 36, class: "box #{state}")
          @svg.tag(:text, state == "suspect" ? "#{@line.module_name(id)} #{@marks.share(probability)}" : @line.module_name(id), x: x, y: y + 23, class: "member-name #{state}")
        end
      end

      def head
        box(@line.template["head"], 14, 104, 66)
        stubs(118, @line.joints.any? ? @layout.x_of(@line.joints.first) - gap(@line.joints.first) : 118)
      end

      def tail
        start = @line.joints.any? ? @layout.x_of(@line.joints.last) + gap(@line.joints.last) : @layout.right + 4
        stubs(start, @layout.right + 4)
        box(@line.template["tail"], @layout.right + 4, 96, @layout.right + 52)
      end

      def box(part, x, width, centre)
        state, = @marks.standing(part["id"])
        @svg.tag(:rect, x: x, y: @layout.top - 34, width: width, height: @layout.bottom - @layout.top + 68, rx: 5, class: "box #{state}")
        lines(part["name"]).each_with_index { |words, i| @svg.tag(:text, words, x: centre, y: @layout.middle + ((i - ((lines(part["name"]).size - 1) / 2.0)) * 18) + 5, class: "box-name") }
        @marks.label(centre, part["id"], nil)
      end

      # A name in lines of at most some twelve letters, three at the most.
      def lines(name)
        name.split(/[ ,]+/).each_with_object([+""]) do |word, rows|
          rows.last.empty? || (rows.last.size + word.size < 12) || rows.size == 3 ? rows.last << (rows.last.empty? ? "" : " ") << word : rows << +word
        end
      end

      def stubs(from, to)
        @layout.wires_y.each { |y| @svg.tag(:line, x1: from, x2: to, y1: y, y2: y, class: "stub") } if to > from
      end

      # A ring as a ring, other parts as boxes one below the other.
      def extras
        return ring if @line.ring?

        @line.extras.each_with_index do |extra, i|
          state, probability = @marks.standing(extra["id"])
          x, y, height = @layout.extra(i)
          @svg.tag(:rect, x: x, y: y, width: 150, height: height, rx: 3, class: "box #{state}")
          @svg.tag(:text, extra["name"], x: x + 75, y: y + (height / 2) - 2, class: extra["name"].size > 19 ? "extra-name long" : "extra-name")
          @svg.tag(:text, state == "suspect" ? @marks.share(probability) : PlaceMarks::WORDS[state], x: x + 75, y: y + (height / 2) + 15, class: "place-mark #{state}")
        end
      end

      def ring
        state, = @marks.standing("ring")
        cx = 1146.0
        cy = @layout.middle
        teeth = (0...20).map { |i| tooth(cx, cy, i * 18) }
        @svg.tag(:path, d: "M#{teeth.flatten(1).map { |x, y| "#{x.round(1)} #{y.round(1)}" }.join(' L')} Z", class: "ring #{state}")
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
        return [66.0, 50.0] if place.nil? # the body of the vehicle, or a rail that stands for it

        joint_id, side = place.split(".")
        joint = @line.joint(joint_id)
        [@layout.x_of(joint) + (gap(joint) * (side == "head" ? -1 : 1)), @layout.wires_y[@line.wires.index { |each| each.id == wire }]]
      end
    end
  end
end
