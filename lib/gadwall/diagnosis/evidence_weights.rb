# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # What the evidence says of one circuit: for each atom and each duty, how likely everything seen there is, against how
    # likely it is with the circuit sound. Ratios above 1 speak for the atom.
    #
    # Duty 1.0 is a fault that is always there; the others come and go. ratios[duty index][atom index].
    class EvidenceWeights
      SILENT_WHEN_OFF = 0.98   # common practice: a module without power answers no scan
      SILENT_WHEN_SOUND = 0.01 # from memory: one sound module in a hundred misses a scan

      attr_reader :ratios, :unpowered_ratio

      # circuit: Vehicle::System::Circuit; body: Evidence::Body; duties: [1.0, ...]; catalogue: for the model's numbers.
      def initialize(circuit, body, duties, catalogue)
        @circuit = circuit
        @model = circuit.model
        @catalogue = catalogue
        @duties = duties
        @ratios = duties.map { Array.new(@model.atoms.size, 1.0) }
        @unpowered_ratio = 1.0
        body.observations.each { |observation| weigh_observation(observation) if observation.circuit.id == circuit.id }
        body.scans.each { |scan| weigh_scan(scan) }
      end

      # By atom of a supply line, each duty: the ratio that the other circuits add when this atom takes the module's power.
      # factor: product of their unpowered ratios.
      def share_power(factor)
        return unless @model.unpowering

        duties.each_with_index do |duty, d|
          @model.unpowering.each_with_index { |off, i| @ratios[d][i] *= (duty * off * factor) + (1 - (duty * off)) if off.positive? }
        end
      end

      private

      attr_reader :duties

      # density = (1 - botched) x model + botched x anything: one wrong probe cannot acquit the guilty.
      def weigh_observation(observation)
        densities = @model.table(observation.test).densities(observation.result, duties)
        slack = @catalogue.model("botched") * Botched.density(observation)
        kept = 1 - @catalogue.model("botched")
        sound = (kept * densities.sound) + slack
        @unpowered_ratio *= ((kept * densities.unpowered) + slack) / sound
        densities.by_duty.each_with_index do |by_atom, d|
          row = @ratios[d]
          by_atom.each_with_index { |density, i| row[i] *= ((kept * density) + slack) / sound }
        end
      end

      def weigh_scan(scan)
        codes = scan.codes.select { |code| code.circuit_id == @circuit.id }
        weigh_answer(scan.answered) if @model.unpowering && !scan.answered.nil?
        return if scan.answered == false && codes.empty? # nobody looked

        codes.empty? ? weigh_silence : codes.each_with_index { |code, n| weigh_code(code, repeated: n.positive?) }
      end

      def weigh_answer(answered)
        duties.each_with_index do |duty, d|
          scale(d) do |i|
            off = @model.unpowering[i] * duty
            answered ? 1 - (off * SILENT_WHEN_OFF) : 1 + (off * SILENT_WHEN_OFF / SILENT_WHEN_SOUND)
          end
        end
      end

      # No code in this circuit although its monitors ran.
      def weigh_silence
        duties.each_with_index do |duty, d|
          raised = monitors.raised(monitors.claims, duty)
          scale(d) { |i| 1 - raised[i] }
        end
        @unpowered_ratio *= 1 - monitors.raised_unpowered(monitors.claims)
      end

      # A further code of the same circuit is hardly a second witness: it counts for a third (exponent).
      def weigh_code(code, repeated:)
        claims = claims_of(code)
        false_rate = @catalogue.model(code.status == "history" ? "history_code" : "false_code")
        duties.each_with_index do |duty, d|
          raised = monitors.raised(claims, duty)
          stands = standing(code, claims, duty)
          missed = repeated ? nil : monitors.key_on_chance(monitors.claims - claims)
          scale(d) do |i|
            ratio = (raised[i] * stands / false_rate) + 1
            repeated ? ratio**REPEATED_POWER : ratio * quiet(missed[i], duty)
          end
        end
        @unpowered_ratio *= (monitors.raised_unpowered(claims) * standing(code, claims, 1.0) / false_rate) + 1
      end

      REPEATED_POWER = 0.33

      def monitors
        @model.monitors
      end

      def scale(duty_index)
        row = @ratios[duty_index]
        row.each_index { |i| row[i] *= yield(i) }
      end

      def claims_of(code)
        names = @catalogue.claims.fetch(code.claim || "any")["any_of"]
        names == ["any"] ? monitors.claims : names
      end

      # Chance that a raised code stands with the status seen: present now, or history.
      def standing(code, claims, duty)
        return 1.0 if code.status.nil?

        now = if duty < 1.0 then monitors.key_on?(claims) ? duty : 0.4
              else monitors.key_on?(claims) ? 0.95 : 0.7
              end
        code.status == "current" ? now : 1 - now
      end

      # An electrical fault that the key-on monitors must see, and did not: one monitor may mute another, so not quite a
      # witness.
      def quiet(missed, duty)
        1 - (0.92 * missed * (duty < 1.0 ? 0.5 : 1.0))
      end
    end
  end
end
