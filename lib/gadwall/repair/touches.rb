# frozen_string_literal: true

module Gadwall
  module Repair
    # What a repair touches, as words: derived from where the hand goes, the option chosen and how the vehicle is built
    # (data/repairs/touches.yml), not looked up by the name of the repair.
    class Touches
      # Repairs with a step of their own; whatever else is replaced shares one.
      OWN_STEP = %w[mend_wire mend_joint clean_ground renew_sensor renew_ring clean_ring renew_module].freeze
      ADJUSTED = %w[calibrate code_module write_parameters remount].freeze
      # The option that repairs nothing.
      WATCH = "watch"

      # One repair: repair and option are ids; circuit, family and module as the System has them; place: of the fault.
      Work = Struct.new(:repair, :option, :circuit, :family, :module, :place, :needs, keyword_init: true)

      # sheet: Vehicle::Sheet; works: Array of Work; catalogue: Knowledge::Catalogue. Returns a frozen Array of words.
      def self.words(sheet, works, catalogue)
        new(sheet, catalogue).words(works)
      end

      # suspect: Diagnosis::Suspects::Suspect with a fault; choice: Decision::Options::Choice. Returns a Work for each
      # place where the hand goes.
      def self.works(suspect, choice)
        suspect.members.map do |circuit, fault|
          Work.new(
            repair: suspect.repair,
            option: choice.id,
            circuit: circuit.id,
            family: circuit.family,
            module: circuit.module,
            place: fault.place,
            needs: place_needs(circuit, fault)
          ).freeze
        end
      end

      # What the place asks for to be reached: "wheel_off", or nil.
      def self.place_needs(circuit, fault)
        harness = circuit.harness
        spot = (harness.connectors + harness.sections).find { |each| each.id == fault.place }
        spot&.needs
      end
      private_class_method :place_needs

      def initialize(sheet, catalogue)
        @sheet = sheet
        @catalogue = catalogue
      end

      # works: Array of Work.
      def words(works)
        (always + works.flat_map { |work| of_work(work) }).uniq.freeze
      end

      private

      def always
        ["always", "volt_#{@sheet.system_voltage}", *("accumulator_system" if @sheet.booster == "electric_pump")]
      end

      def of_work(work)
        return [] if work.option == WATCH

        @catalogue
          .touches
          .each_with_object([step_of(work.repair)]) do |row, words|
            words.concat(row["touches"]) if holds?(row, work, words)
          end
      end

      def step_of(repair)
        return repair if OWN_STEP.include?(repair)

        ADJUSTED.include?(repair) ? "adjust" : "part"
      end

      # words: those that earlier rows gave this work.
      def holds?(row, work, words)
        named?(row["repairs"], work.repair) && named?(row["families"], work.family) &&
          named?(row["options"], work.option) && named?(row["modules"], work.module) &&
          fits?(row["circuits"], work.circuit) && fits?(row["places"], "#{work.family}/#{work.place}") &&
          (row["needs"].nil? || row["needs"] == work.needs) && ((row["with"] || []) - words).empty? &&
          built?(row["vehicle"])
      end

      def named?(list, id)
        list.nil? || list.include?(id)
      end

      def fits?(patterns, name)
        patterns.nil? || patterns.any? { |pattern| File.fnmatch(pattern, name) }
      end

      def built?(answers)
        answers.nil? || answers.all? { |field, values| values.include?(@sheet.answers.fetch(field)) }
      end
    end
  end
end
