# frozen_string_literal: true

module Web
  module Helpers
    # Quantities in the units that the workshop likes, where they are quantities; the record keeps its own.
    module Quantities
      # Gadwall::Quantity::Preferences.
      def preferences
        settings.workshop.units
      end

      # A unit as it is shown and typed.
      def shown_unit(unit)
        units(preferences.unit(unit.to_s))
      end

      # A quantity, or a text of data/ with quantities in it, in the workshop's units. What somebody typed as words (a
      # complaint, a note, a name, a part's number) is never put through this.
      def shown(text)
        units(preferences.in_text(text.to_s))
      end

      # The texts of a drawing that the core made.
      def shown_figure(svg)
        preferences.in_svg(svg.to_s)
      end

      # Figures of a step as typed, in the record's units. step: Gadwall::Repair::Step or nil; typed: {id => text}.
      def kept_figures(step, typed)
        asked = step ? step.asks.to_h { |ask| [ask["id"], ask["unit"]] } : {}
        typed.to_h { |id, text| [id, asked[id] ? preferences.kept(text, asked[id]) : text] }
      end

      # Errors that speak of what was typed, not of what was made of it.
      def as_typed(errors, typed, kept)
        errors.transform_values do |sentence|
          kept.reduce(sentence) { |text, (id, value)| text.sub("'#{value}'", "'#{typed[id]}'") }
        end
      end
    end
  end
end
