# frozen_string_literal: true

module Gadwall
  module Circuits
    # What a Harness is made of.
    module HarnessParts
      # starts_at: where a wire begins that does not pass the first connector, in words.
      Wire = Struct.new(:id, :name, :colour, :starts_at, keyword_init: true)
      # module: who hangs on a bus here; passes: the bus runs on through that module's plug; kind: of KINDS; wires: ids
      # of those that pass through it.
      Connector =
        Struct.new(
          :id,
          :name,
          :minutes,
          :needs,
          :exposed,
          :pins,
          :with,
          :module,
          :passes,
          :kind,
          :wires,
          keyword_init: true
        ) do
          # Crimped or soldered, with nothing to disconnect and no pins?
          def splice?
            kind == "splice"
          end

          # Does a wire pass through it? wire: Wire.
          def carries?(wire)
            wires.include?(wire.id)
          end
        end
      # What comes apart with its wires, what holds fuses, what is crimped or soldered for good.
      KINDS = %w[plug fuse_box splice].freeze
      # From connector `from` to connector `to`; `ohm` for one wire, `ohms`: {wire id => ohm} of those that are thicker
      # or thinner; wires: ids of those that run in it.
      Section =
        Struct.new(:id, :from, :to, :ohm, :ohms, :length_m, :flexes, :needs, :wires, keyword_init: true) do
          # Ohms of a wire in it. wire: Wire.
          def ohm_of(wire)
            ohms.fetch(wire.id, ohm)
          end

          # Does a wire run in it? wire: Wire.
          def carries?(wire)
            wires.include?(wire.id)
          end
        end
    end
  end
end
