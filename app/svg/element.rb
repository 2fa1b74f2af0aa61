# frozen_string_literal: true

require "cgi"

module Web
  module Svg
    # Writes SVG elements. Every text and attribute is escaped here and nowhere else.
    class Element
      def initialize
        @out = +""
      end

      # name: Symbol; attributes: Hash, "_" in names becomes "-"; text or a block for what is inside.
      def tag(name, text = nil, **attributes)
        @out << "<#{name}"
        attributes.each do |key, value|
          @out << " #{key.to_s.tr("_", "-")}=\"#{CGI.escapeHTML(format_value(value))}\"" unless value.nil?
        end
        return tap { @out << "/>" } if text.nil? && !block_given?

        @out << ">"
        @out << CGI.escapeHTML(text.to_s) if text
        yield if block_given?
        @out << "</#{name}>"
        self
      end

      # A pattern of slanting lines. id: that it is filled with by.
      def hatching(id)
        turn = "rotate(45)"
        tag(:defs) do
          tag(:pattern, id: id, width: 8, height: 8, patternUnits: "userSpaceOnUse", patternTransform: turn) do
            tag(:rect, width: 3, height: 8, class: "hatch-stroke")
          end
        end
      end

      def to_s
        @out
      end

      private

      def format_value(value)
        value.is_a?(Float) ? value.round(2).to_s.delete_suffix(".0") : value.to_s
      end
    end
  end
end
