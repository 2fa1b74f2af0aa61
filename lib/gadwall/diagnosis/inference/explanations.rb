# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # What each code of the scans is to the leading suspects: its cause stands in the code's own circuit ("cause"), it
    # is a consequence of something elsewhere ("symptom"), an old one ("history"), nothing explains it yet
    # ("unexplained"), or nobody has said yet which circuit it speaks of ("not_placed"). A code that is known but
    # belongs to no circuit of this sheet is "elsewhere" and stays a line of inquiry; a record that was not tested since
    # clearing ("not_tested") is neither a code nor a pass, one that passed is "passed".
    class Explanations
      # kind as above; by: texts of the suspects that explain it.
      Row = Struct.new(:code, :kind, :by, keyword_init: true)

      attr_reader :rows

      # investigations: Array of Investigation.
      def initialize(posterior, body, investigations)
        @posterior = posterior
        @measured = body.observations.map { |each| each.circuit.id }.uniq
        @suspects = investigations.map(&:suspect).reject(&:none?)
        @rows =
          body
            .scans
            .flat_map(&:codes)
            .uniq { |code| [code.word, code.circuit_id, code.claim] }
            .map { |code| row(code) }
            .freeze
        freeze
      end

      # Present codes of known circuits that nothing explains.
      def unexplained
        rows.select { |row| row.kind == "unexplained" }.map(&:code)
      end

      STILL_OPEN = 0.03 # chance of a fault in the code's circuit from which its line of investigation stays open

      # Those of them that still ask for a test: nobody has measured in their circuit, or a fault there is still to be
      # feared.
      def open_codes
        present = unexplained.reject { |code| @measured.include?(code.circuit_id) && chance(code) < STILL_OPEN }
        old = rows.select { |row| row.kind == "history" && row.code.circuit_id }.map(&:code)
        present +
          (@suspects.any? ? old.reject { |code| @measured.include?(code.circuit_id) && chance(code) < STILL_OPEN } : [])
      end

      private

      # That something is wrong in the code's circuit.
      def chance(code)
        @posterior.circuit_probability(@posterior.circuits.fetch(code.circuit_id).circuit)
      end

      def row(code)
        return Row.new(code: code, kind: code.status, by: []).freeze unless code.set?

        own = @suspects.select { |suspect| suspect.members.any? { |circuit, _| circuit.id == code.circuit_id } }
        afar = @suspects.select { |suspect| reaches?(suspect, code.circuit_id, code.about) } - own
        kind =
          if own.any?
            "cause"
          elsif afar.any?
            "symptom"
          else
            unexplained_kind(code)
          end
        Row.new(code: code, kind: kind, by: (own.any? ? own : afar).map(&:text)).freeze
      end

      # A code of which nobody has said yet which circuit it speaks of is asked about, not called history.
      def unexplained_kind(code)
        return code.known || code.about ? "elsewhere" : "not_placed" unless code.circuit_id

        code.status == "current" && @suspects.any? ? "unexplained" : "history"
      end

      # Does this suspect take the circuit's module its power, or spoil the data of the module that the code accuses?
      def reaches?(suspect, circuit_id, about = nil)
        suspect.members.any? do |circuit, _|
          next true if about && circuit.module == about

          @posterior.power_scenarios(circuit.id).any? { |scenario| scenario.touched.include?(circuit_id) } ||
            same_module?(circuit, circuit_id)
        end
      end

      # A fault inside a module can set codes of anything that it reads.
      def same_module?(circuit, circuit_id)
        circuit.powers? && @posterior.circuits[circuit_id]&.circuit&.module == circuit.module
      end
    end
  end
end
