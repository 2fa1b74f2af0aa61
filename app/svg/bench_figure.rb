# frozen_string_literal: true

module Web
  module Svg
    # The drawn line of the practice bench: every pin on both sides of every joint is a test point that a probe is put
    # on, every joint can be taken apart, every place looked at. Nothing tells what is wrong.
    class BenchFigure < HarnessFigure
      ROLE = "group"
      GROUND = [66.0, 50.0].freeze
      NAMES = { "near" => "module side", "far" => "component side" }.freeze

      # Tells nothing of a place but its note.
      class Silent
        def initialize(svg, layout)
          @svg = svg
          @layout = layout
        end

        # As PlaceMarks#state_of.
        def state_of(_place)
          ["drawn", 0.0]
        end

        # As PlaceMarks#word.
        def word(_state, _probability)
          ""
        end

        # As PlaceMarks#label.
        def label(x, _place, note)
          @svg.tag(:text, note, x: x, y: @layout.marks_y, class: "place-note") if note
        end
      end

      # harness: Gadwall::Circuits::Harness; title; apart: ids of joints that are apart; leads: {"red" => node or nil,
      # "black" => node or nil}.
      def initialize(harness, title:, apart:, leads:)
        super(harness, title: title, place_states: {}, probes: [], disconnected: apart)
        @leads = leads
        @marks = Silent.new(@svg, @layout)
      end

      # A test point in words: "signal, sensor connector, component side".
      def self.words(harness, node)
        return "body, chassis ground" if node == "ground"

        wire, place = node.split("@")
        joint, side = place.split(".")
        "#{harness.wire(wire).name}, #{harness.connector(joint).name}, #{NAMES.fetch(side)}"
      end

      private

      # Nothing stands below but notes, and who hangs on a bus.
      def height
        @harness.modules.any? ? super : @layout.marks_y + 12
      end

      # In place of the flags of a test: points, and the leads on them.
      def probes
        points.each { |node, x, y| point(node, x, y) }
        places
      end

      def points
        pins =
          @harness.connectors.flat_map do |joint|
            %w[near far].flat_map do |side|
              @harness.wires.filter_map do |wire|
                next unless joint.wires.include?(wire.id)

                node = "#{wire.id}@#{joint.id}.#{side}"
                [node, *position(node)]
              end
            end
          end
        pins << ["ground", *GROUND]
      end

      def point(node, x, y)
        lead = @leads.key(node)
        @svg.tag(
          :g,
          class: "point #{"lead-#{lead}" if lead}",
          id: "point-#{node.tr("@.", "--")}",
          data_node: node,
          tabindex: 0,
          role: "button",
          aria_label: BenchFigure.words(@harness, node)
        ) do
          @svg.tag(:circle, cx: x, cy: y, r: 13, class: "point-touch")
          @svg.tag(:circle, cx: x, cy: y, r: lead ? 8 : 4, class: "point-dot")
          @svg.tag(:text, lead == "red" ? "+" : "−", x: x, y: y + 5, class: "point-sign") if lead
          @svg.tag(:text, "body", x: x, y: y - 14, class: "place-note") if node == "ground"
        end
      end

      # Where a hand takes a joint: its name is what is touched.
      def places
        @harness.connectors.each do |joint|
          x = @layout.x_of(joint)
          @svg.tag(
            :rect,
            x: x - 62,
            y: 22,
            width: 124,
            height: 40,
            rx: 6,
            class: "joint-touch",
            data_joint: joint.id,
            data_apart: @disconnected.include?(joint.id),
            tabindex: 0,
            role: "button",
            aria_label: "#{joint.name}: #{@disconnected.include?(joint.id) ? "connect" : "disconnect"}"
          )
        end
      end
    end
  end
end
