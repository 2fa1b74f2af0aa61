# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Probabilities after the evidence. Hypotheses: nothing wrong now, and every single fault.
    #
    # Circuits are independent, so a fault's weight is its prior times the ratio that its own circuit's evidence gives it
    # (EvidenceWeights); a set of faults in different circuits is the product of such weights. That is how several faults
    # at once will join: Suspect holds a list already.
    class Posterior
      # fault_ids: [] for nothing wrong now; place: what would be mended, "circuit/place".
      Suspect = Struct.new(:circuit, :fault, :probability, :place, keyword_init: true) do
        def none?
          fault.nil?
        end

        def id
          none? ? "none" : "#{circuit.id}.#{fault.id}"
        end

        def text
          none? ? "nothing wrong now" : "#{circuit.title}: #{fault.name}"
        end
      end

      NONE_PLACE = "none"

      attr_reader :suspects, :system, :weights_by_circuit, :total

      # system: Vehicle::System; body: Evidence::Body.
      def initialize(system, body)
        @system = system
        @catalogue = system.catalogue
        @priors = Priors.new(system, body)
        @evidence = system.circuits.to_h { |circuit| [circuit.id, EvidenceWeights.new(circuit, body, duties, @catalogue)] }
        share_power
        @weights_by_circuit = system.circuits.to_h { |circuit| [circuit.id, weights(circuit)] }
        @none = @priors.none
        @total = @none + weights_by_circuit.values.flatten.sum
        @suspects = rank.freeze
      end

      def probability(full_id)
        suspects.find { |suspect| suspect.id == full_id }&.probability || 0.0
      end

      def none
        @none / total
      end

      # {place => probability}: faults that the same repair cures are one.
      def places
        @places ||= suspects.group_by(&:place).transform_values { |group| group.sum(&:probability) }.sort_by { |_, p| -p }.to_h
      end

      def entropy_bits
        Information.entropy(places.values)
      end

      # Probability of each atom at each duty of a circuit: [duty index][atom index].
      def atom_probabilities(circuit)
        (@atom_probabilities ||= {})[circuit.id] ||= weights_by_circuit.fetch(circuit.id).map { |row| row.map { |weight| weight / total } }
      end

      LEAST_BELIEF = 2e-5  # what is left out moves no rank
      KEPT_BELIEF = 0.998  # of a circuit's probability

      # What is still believed of a circuit: [place, atom index, duty index, probability], strongest last.
      def beliefs(circuit)
        (@beliefs ||= {})[circuit.id] ||= strongest(circuit)
      end

      STRONG = 0.85 # of each place's probability: enough to tell a telling test from an idle one
      LEAST_PLACE = 0.002

      # The same for a test that meets each duty with these chances, as bare columns: {place => Columns}.
      # always: atoms that are there all the time; met: those that come and go, with the chance that the test meets them;
      # unmet: the probability of the rest, which looks sound.
      Columns = Struct.new(:always_atoms, :always, :met_atoms, :met, :unmet)

      # strong: only the strong beliefs.
      def belief_columns(circuit, meeting, strong: false)
        (@belief_columns ||= {})[[circuit.id, meeting, strong]] ||=
          chosen(circuit, strong).group_by(&:first).transform_values { |rows| columns(rows, meeting) }
      end

      # Probability that the beliefs used for choosing tests hold together.
      def believed(circuit, strong: false)
        (@believed ||= {})[[circuit.id, strong]] ||= chosen(circuit, strong).sum(&:last)
      end

      # Probability that the fault sits in this circuit.
      def mass(circuit)
        (@masses ||= {})[circuit.id] ||= weights_by_circuit.fetch(circuit.id).sum(&:sum) / total
      end

      # How much of the time a fault is there: 1.0, and the duties of those that come and go.
      def duties
        @duties ||= [1.0, *@catalogue.model("duties")].freeze
      end

      private

      def strongest(circuit)
        all = []
        atom_probabilities(circuit).each_with_index do |row, d|
          row.each_with_index { |p, i| all << [circuit.model.atoms[i].fault.place, i, d, p] if p >= LEAST_BELIEF }
        end
        trim(all.sort_by!(&:last), mass(circuit) * (1 - KEPT_BELIEF))
      end

      def chosen(circuit, strong)
        return beliefs(circuit) unless strong

        (@strong ||= {})[circuit.id] ||= beliefs(circuit).group_by(&:first).values.flat_map do |rows|
          total = rows.sum(&:last)
          total < LEAST_PLACE ? [] : trim(rows, total * (1 - STRONG))
        end
      end

      def columns(rows, meeting)
        always, fleeting = rows.partition { |_, _, duty, _| duty.zero? }
        met = Hash.new(0.0)
        fleeting.each { |_, atom, duty, p| met[atom] += p * meeting[duty] }
        Columns.new(always.map { |row| row[1] }, always.map(&:last), met.keys, met.values, fleeting.sum(&:last) - met.values.sum)
      end

      # Rows, weakest first, without the weakest that together hold less than `spare`.
      def trim(sorted, spare)
        sorted.drop_while { |row| (spare -= row.last).positive? }
      end

      def share_power
        wheels = system.circuits.select(&:wheel?)
        factor = wheels.map { |circuit| @evidence[circuit.id].unpowered_ratio }.reduce(1.0, :*)
        @evidence.each_value { |evidence| evidence.share_power(factor) }
      end

      def weights(circuit)
        evidence = @evidence.fetch(circuit.id)
        priors = @priors.by_atom(circuit, duties)
        evidence.ratios.each_with_index.map { |row, d| row.each_with_index.map { |ratio, i| ratio * priors[d][i] } }
      end

      def rank
        found = system.circuits.flat_map { |circuit| by_fault(circuit) }
        none = Suspect.new(circuit: nil, fault: nil, probability: @none / total, place: NONE_PLACE)
        (found << none).sort_by { |suspect| [-suspect.probability, suspect.id] }
      end

      def by_fault(circuit)
        sums = Array.new(circuit.model.faults.size, 0.0)
        weights_by_circuit[circuit.id].each { |row| row.each_with_index { |weight, i| sums[circuit.model.atoms[i].fault_index] += weight } }
        circuit.model.faults.each_with_index.map do |fault, k|
          Suspect.new(circuit: circuit, fault: fault, probability: sums[k] / total, place: "#{circuit.id}/#{fault.place}")
        end
      end
    end
  end
end
