# frozen_string_literal: true

module Gadwall
  module Repair
    # One place where the hand goes, and what is done there. Frozen.
    #
    # repair: id of the repair that the fault asks for; option: id of data/repairs/options.yml; circuit, family, module:
    # ids as the System has them; place: of the fault; title: circuit and place in words; corner: where its wheel is, or
    # nil; needs: what the place asks for to be reached ("wheel_off"), or nil; kind: of a connector, or nil; passes:
    # does the bus run on through the plug of its module? reach: where it usually is and what comes off, or nil.
    Work =
      Struct.new(
        :repair,
        :option,
        :circuit,
        :family,
        :module,
        :place,
        :title,
        :corner,
        :needs,
        :kind,
        :passes,
        :reach,
        keyword_init: true
      ) do
        # circuit: Vehicle::System::Circuit; place: id of a place in it; repair, option: ids; system: Vehicle::System.
        def self.at(circuit, place, repair:, option:, system:)
          spot = Work.spot(circuit.harness, place)
          held = Work.module_of(circuit, place, option)
          new(
            repair: repair,
            option: option,
            circuit: circuit.id,
            family: circuit.family,
            module: held,
            place: place,
            title: "#{circuit.title}, #{Work.name(circuit, place)}",
            corner: circuit.corner || (circuit.id if circuit.id.start_with?("trailer_") && circuit.wheel?),
            needs: spot&.needs,
            kind: (spot.kind if spot.respond_to?(:kind)),
            passes: Work.passed?(system, held),
            reach: Reach.to(circuit, place, system)
          ).freeze
        end

        # suspect: Diagnosis::Suspects::Suspect with faults; option: id; system: Vehicle::System. Returns an Array of
        # Work, one for each place.
        def self.of(suspect, option, system)
          suspect
            .members
            .uniq { |circuit, fault| [circuit.id, fault.place] }
            .map { |circuit, fault| at(circuit, fault.place, repair: suspect.repair, option: option, system: system) }
        end

        # The connector or section of a harness that a place is, or nil.
        def self.spot(harness, place)
          (harness.connectors + harness.sections).find { |each| each.id == place }
        end

        # The place in words.
        def self.name(circuit, place)
          spot = spot(circuit.harness, place)
          return spot.name if spot.respond_to?(:name) && spot.name
          return "wire from #{spot.from.name} to #{spot.to.name}" if spot

          place.tr("_", " ")
        end

        # On a bus the place names the module itself, or the connector of one.
        def self.module_of(circuit, place, option)
          return circuit.module if circuit.module

          held = spot(circuit.harness, place)
          return held.module if held.respond_to?(:module) && held.module

          circuit.harness.modules.map(&:first).find { |id| id == place } || (option == "other_module" ? "other" : nil)
        end

        # Does a bus run on through the plug of this module? module_id: id or nil.
        def self.passed?(system, module_id)
          system.circuits.any? do |circuit|
            circuit.harness.connectors.any? { |each| each.module == module_id && each.passes }
          end
        end

        # "circuit/place".
        def location
          "#{circuit}/#{place}"
        end

        # "front_axle" or "rear_axle"; nil away from the wheels.
        def axle
          corner&.sub(/\A(front|rear)_.*/, '\1_axle')
        end
      end
  end
end
