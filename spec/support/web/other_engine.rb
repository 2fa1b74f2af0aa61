# frozen_string_literal: true

module WebHelp
  # Another version of the engine, which takes the rings of this workshop for far more suspect than they are.
  class OtherEngine
    def swap(example)
      example.allow(Gadwall::Diagnosis).to example.receive(:engine).and_return("3-00000000")
      example.allow(Gadwall::Diagnosis).to(
        example.receive(:assess).and_wrap_original { |assess, system, body| assess.call(system, without_last(body)) }
      )
    end

    private

    def without_last(body)
      body.dup.tap { |copy| copy.observations = body.observations[0..-2] }
    end
  end
end
