# frozen_string_literal: true

module Gadwall
  module Decision
    # The ways to mend a place, whatever leads: every repair that a fault there can ask for. The one recommended answers
    # the fault that is most likely there.
    class PlaceOptions
      # id, name, price, lasts, waiting_days: of data/repairs/options.yml and the shop; hours, repair_hours: as of
      # Options::Choice; repair: id; refused: why
      # it may not be chosen as things stand, or nil; brings: words of what its plan brings along.
      Choice =
        Struct.new(
          :id,
          :name,
          :repair,
          :price,
          :hours,
          :repair_hours,
          :waiting_days,
          :lasts,
          :risk,
          :expected,
          :refused,
          :brings,
          :recommended,
          keyword_init: true
        )

      # system: Vehicle::System; location: "circuit/place"; shop: Shop; triage: ids of Triage that were said;
      # assessment: a block that gives the Diagnosis::Assessment, asked only where it matters, or none where nothing was
      # seen. Raises UnknownNameError.
      def initialize(system, location, shop: Shop.new, triage: [], &assessment)
        @system = system
        @location = location
        @circuit, @place = PlaceOptions.find(system, location)
        @shop = shop
        @said = triage
        @assessment = assessment
      end

      # [Vehicle::System::Circuit, place]. Raises UnknownNameError that lists the places of this vehicle.
      def self.find(system, location)
        id, place = location.to_s.split("/", 2)
        circuit = system.circuits.find { |each| each.id == id }
        return circuit, place if circuit && circuit.model.faults.any? { |fault| fault.place == place }

        known = system.circuits.flat_map { |each| each.model.faults.map { |fault| "#{each.id}/#{fault.place}" }.uniq }
        raise UnknownNameError.new(field: "--place", given: location, known: known)
      end

      # Array of Choice, the recommended one first.
      def choices
        @choices ||=
          begin
            made = records.map { |record| build(record) }
            best = recommended(made)
            best.recommended = true
            made.sort_by { |each| [each == best ? 0 : 1, each.expected] }.each(&:freeze)
          end
      end

      # The Repair::Work of a choice. id: of an option, nil for the recommended one. Raises UnknownNameError.
      def work(id = nil)
        option = id || choices.find(&:recommended).id
        record = records.find { |each| each["id"] == option }
        raise UnknownNameError.new(field: "--option", given: id, known: records.map { |each| each["id"] }) unless record

        work_of(record)
      end

      private

      def faults
        @circuit.model.faults.select { |fault| fault.place == @place }
      end

      # Where the diagnosis stands at this place, or nil where nothing was seen.
      def conclusion
        return @conclusion if defined?(@conclusion)

        assessment = @assessment&.call
        @conclusion = assessment&.conclusion_at(@location)
      end

      def likely_repair
        conclusion ? conclusion.suspect.repair : faults.max_by(&:rate).repair
      end

      def triage
        @said | (conclusion ? Diagnosis::OffRoad.triage(conclusion.suspect, @system.catalogue) : [])
      end

      def records
        repairs = faults.map(&:repair)
        all = @system.catalogue.repairs.values.map { |record| @shop.priced(record) }
        all.select do |record|
          ["any", *repairs].include?(record["repair"]) && Options.fits?(record, @circuit, @place, @system.sheet, triage)
        end
      end

      def build(record)
        plan, unsound = Repair::Composer.plan_or_reason(@system, [work_of(record)])
        hours = Options.hours(record, plan, @system.catalogue)
        cost = record["price"] + (hours * @shop.rate)
        Choice.new(
          **record.slice("id", "name", "repair", "price", "waiting_days", "lasts", "risk").transform_keys(&:to_sym),
          hours: hours,
          repair_hours: record["hours"],
          expected: (cost + ((1 - record["lasts"]) * [cost, @shop.rate].max)).round,
          refused: Refusals.of(record, conclusion, triage) || unsound,
          brings: plan&.brings || [],
          recommended: false
        )
      end

      def work_of(record)
        repair = record["repair"] == "any" ? likely_repair : record["repair"]
        Repair::Work.at(@circuit, @place, repair: repair, option: record["id"], system: @system)
      end

      # The cheapest in the end that answers the likely fault and is not refused; where all are, the cheapest.
      def recommended(made)
        safe = made.reject { |each| @system.catalogue.repairs.dig(each.id, "safety") }
        fitting = safe.select { |each| each.repair == likely_repair }
        fitting = safe if fitting.empty?
        fitting.reject(&:refused).min_by(&:expected) || fitting.min_by(&:expected) || made.first
      end
    end
  end
end
