# frozen_string_literal: true

module Gadwall
  module Job
    # A job read back: its record, its log, and what follows from them. What takes a diagnosis is computed when it is
    # asked for, once; what was decided is read from the log.
    class Dossier
      # record: Record; log: Log; shop: Decision::Shop, what the workshop charges; head: Head as it was written with the
      # last entry, nil where it is to be computed.
      attr_reader :record, :log, :shop

      def initialize(record, log, shop: Decision::Shop.new, head: nil)
        @record = record
        @log = log
        @shop = shop
        @memo = head ? { head: head } : {}
      end

      # What stands over every page: Head.
      def head
        memo(:head) { Head.of(self) }
      end

      # The job with what an act wrote. entries: Array of Entries::Entry, stamped; record: Record, changed or the same;
      # system: Vehicle::System of its sheet. Returns a Dossier.
      def with(entries, record: @record, system: log.system)
        Dossier.new(record, log.with(entries, system: system), shop: shop)
      end

      # The workshop's price of an hour, in its currency.
      def rate
        shop.rate
      end

      # Text such as "J101".
      def number
        record.number
      end

      # seq of the last entry, 0 for none.
      def last_seq
        log.last_seq
      end

      # The Vehicle::System of the sheet.
      def system
        log.system
      end

      # The Vehicle::Sheet.
      def sheet
        system.sheet
      end

      # The Knowledge::Catalogue that the system was built from.
      def catalogue
        system.catalogue
      end

      # Diagnosis::Assessment of the evidence before the repair. Raises AssessmentError.
      def assessment
        memo(:assessment) { assess }
      end

      # The AssessmentError, or nil where the evidence can be assessed.
      def trouble
        assessment
        nil
      rescue AssessmentError => error
        error
      end

      # Why the vehicle must not be driven as it is: ids of Decision::Triage. After the decision those that were signed.
      def off_road
        return log.triage | decisions.flat_map(&:triage) if decided?

        return told_off_road if !log.scanned? || trouble

        assessment.off_road
      end

      # Was it decided that the vehicle is not driven until it is repaired?
      def stays_off_road?
        decisions.any? { |each| each.entry.option == "off_the_road" }
      end

      # What was said at intake and what the lamps say, before anything is computed.
      def told_off_road
        lit = log.valid_entries.grep(Entries::Lamps).reduce([]) { |known, entry| (known - entry.out) | entry.lit.keys }
        log.triage | Diagnosis::OffRoad.of_lamps(lit, catalogue)
      end

      # -- decision

      # What was decided, in the order in which it was signed: Array of Snapshot.
      def decisions
        memo(:decisions) do
          log
            .decisions
            .filter_map { |entry| entry.snapshot ? Snapshot.new(entry) : first_format.snapshot(entry) }
            .freeze
        end
      end

      # Is the repair authorised, for every conclusion? The search is closed then, until it is reopened.
      def decided?
        memo(:decided) do
          last = log.decisions.last
          if last.nil?
            false
          else
            last.remaining ? last.remaining.empty? : first_format.complete?
          end
        end
      end

      # Decision::Options of each conclusion that stands now: what could be decided.
      def offers
        memo(:offers) do
          assessment.verdict.conclusions.map do |conclusion|
            Decision::Options.new(assessment, conclusion, shop: shop, triage: log.triage)
          end
        end
      end

      # The Options that are to be decided next; nil once all are.
      def options
        open_offers.first
      end

      # Offers that no decision covers yet: neither their place nor any of their circuits.
      def open_offers
        places = decisions.map(&:place)
        circuits = decisions.flat_map(&:circuits)
        offers.reject do |offer|
          places.include?(offer.suspect.place) || offer.conclusion.investigation.circuits.intersect?(circuits)
        end
      end

      # -- repair and after

      # Repair::Progress of the plan that was signed, or nil before.
      def plan
        memo(:plan) { decided? ? progress : nil }
      end

      # How the vehicle stands now, by what the trace left open and what was signed of the plan: Repair::VehicleState.
      def standing
        memo(:standing) do
          next Repair::VehicleState.new(state_rules) if handed_over?

          plan&.standing ? plan.standing.now : Repair::VehicleState.new(state_rules, left_open)
        end
      end

      # States that the trace left the vehicle in: [[state id, place or nil], ...].
      def left_open
        log.open_now.flat_map do |key|
          *circuit, access = key.split("/")
          states = (catalogue.access.dig(access, "leaves") || []).map { |id| state_rules.state_of(id) }
          states.map { |state| [state.id, (where_opened(circuit.first) if state.places)] }
        end
      end

      # Verification::Check, or nil before the repair is authorised.
      def proof
        memo(:proof) { decided? ? Verification::Check.new(log, decisions.flat_map(&:confirming).uniq, plan) : nil }
      end

      # Codes of the pre-scan by the circuit that they name: {circuit id => [code, ...]}.
      def codes_by_circuit
        scan = log.of(Entries::Scan::KIND).find { |entry| !entry.after? }
        codes = scan ? log.scan(scan).codes : []
        codes.select(&:circuit_id).group_by(&:circuit_id).transform_values { |list| list.map(&:word).uniq }
      end

      # Did the technician see the fault come and go?
      def came_and_went?
        log.of(Entries::Presence::KIND).any? { |entry| entry.fault == "fleeting" }
      end

      # Was the vehicle handed over?
      def handed_over?
        log.handed_over?
      end

      # Stage.
      def stage
        memo(:stage) { Stage.new(self) }
      end

      # What today's assessment concludes differently from what was signed, in sentences; [] where it agrees.
      def differences
        memo(:differences) { decided? ? Differences.of(self) : [] }
      end

      # Short: an error message must not print the whole job.
      def inspect
        "#<#{self.class} #{number}>"
      end

      private

      def memo(key)
        return @memo[key] if @memo.key?(key)

        @memo[key] = yield
      end

      # A broken entry or a failing engine must not take the job's pages down with it.
      def assess
        Diagnosis.assess(system, log.body)
      rescue AssessmentError
        raise
      rescue StandardError => error
        raise AssessmentError, error
      end

      def first_format
        FirstFormat.new(log, assessment, shop: shop)
      end

      def progress
        plan = log.plan
        return Repair::Progress.new(first_format.steps, signed(nil)) unless plan

        steps = plan.steps.map { |row| Repair::Step.from_h(row) }
        Repair::Progress.new(steps, signed(plan), rules: state_rules, touches: plan.touches, left: left_open)
      end

      def state_rules
        Repair::StateRules.of(catalogue, sheet)
      end

      # At which wheel something was opened, else in which circuit; nil where it belongs to none.
      def where_opened(circuit_id)
        system.circuits.find { |circuit| circuit.id == circuit_id }&.corner || circuit_id
      end

      # Step entries that count for a plan: those written after it, and those that it carries over.
      def signed(plan)
        counted = log.steps.select { |entry| plan.nil? || entry.seq > plan.seq || carried?(plan, entry) }
        counted.group_by(&:step)
      end

      def carried?(plan, entry)
        plan.carried[entry.step] == entry.seq
      end
    end
  end
end
