# frozen_string_literal: true

module Web
  module Pages
    # A circuit as it is being typed, drawn; or the first thing wrong with it.
    class HarnessDrawing
      # circuit: Gadwall::Vehicle::System::Circuit; form: Forms::CircuitForm; catalogue: Gadwall::Knowledge::Catalogue.
      def initialize(circuit, form, catalogue)
        made = form.adaptation
        @error = form.errors.values.first
        return if @error

        harness = Gadwall::Circuits::Harness.new(circuit.harness.template, made, catalogue)
        @figure = Svg::HarnessFigure.new(harness, title: circuit.title, place_states: {}).to_s
      rescue Gadwall::InputError => error
        @error = error.message
      end

      attr_reader :figure, :error
    end
  end
end
