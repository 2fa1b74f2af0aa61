# frozen_string_literal: true

module Gadwall
  module Simulator
    module Heavy
      # A source on the bus of a heavy vehicle: says its active codes once a second, and answers who asks.
      class Node
        EVERY_S = 1.0 # SAE J1939-73: DM1 once a second
        ANSWER_S = 0.02 # SAE J1939-21: within 200 ms
        TRACTOR = 0x0B # SAE J1939-81: brakes, system controller

        # Nodes of a vehicle: of modules that have an address; the tractor's own brake module speaks for its circuits.
        def self.all(vehicle, bus)
          by_address = vehicle.ecus.group_by { |ecu| ecu.record["address"] }
          by_address.delete(nil)
          abs = vehicle.ecu("abs")
          by_address[TRACTOR] = [*by_address[TRACTOR], abs] if abs && vehicle.system.sheet.answers["booster"] == "air"
          by_address.map { |address, ecus| new(address, ecus, bus) }
        end

        # address: 0..253; ecus: Array of Ecu that speak by it; bus: Bus.
        def initialize(address, ecus, bus)
          @address = address
          @ecus = ecus
          @bus = bus
          @due = []
          @again_at = nil
        end

        # Which bus it is on.
        def bus_name
          Bus::HEAVY
        end

        # As of a node of Bus.
        def next_at
          return unless @bus.vehicle.state.awake?

          @again_at ||= @bus.now + EVERY_S
          [@again_at, *@due.map(&:first)].min
        end

        # As of a node of Bus.
        def run(now)
          return rest unless speaks?

          say_active(now) if @again_at <= now
          place = @due.each_index.min_by { |i| @due[i].first }
          place && @due[place].first <= now ? frame(@due.delete_at(place), now) : nil
        end

        # As of a node of Bus: requests (SAE J1939-21) to it or to everybody.
        def take(frame)
          return unless frame.extended && frame.bus == bus_name && frame.data.size >= 3
          return unless (frame.id >> 16) & 0xFF == Messages::REQUEST && speaks?

          to = (frame.id >> 8) & 0xFF
          return unless [@address, Messages::EVERYBODY].include?(to)

          pgn = frame.data[0] | (frame.data[1] << 8) | (frame.data[2] << 16)
          requested(pgn, from: frame.id & 0xFF, alone: to == @address)
        end

        private

        def speaks?
          speaking.any? { |ecu| !ecu.mute }
        end

        def speaking
          @ecus.select { |ecu| @bus.there?(ecu) }
        end

        def rest
          @due.clear
          @again_at = nil
        end

        def say_active(now)
          @again_at += EVERY_S
          @again_at = now + EVERY_S if @again_at <= now
          later(Messages.codes(Messages::DM1, @address, codes(active: true))) if @due.empty?
        end

        def requested(pgn, from:, alone:)
          case pgn
          when Messages::DM1, Messages::DM2
            later(Messages.codes(pgn, @address, codes(active: pgn == Messages::DM1)), ANSWER_S)
          when Messages::DM3, Messages::DM11
            dtcs(active: pgn == Messages::DM11).each(&:clear)
            acknowledge(from, pgn, true) if alone
          else
            acknowledge(from, pgn, false) if alone
          end
        end

        def acknowledge(from, pgn, positive)
          later([Messages.acknowledgement(@address, from, pgn, positive: positive)], ANSWER_S)
        end

        def later(frames, delay = 0.0)
          @due.concat(frames.map { |after, id, bytes| [@bus.now + delay + after, id, bytes] })
        end

        # Codes whose monitor fails now; or those that failed and do not now.
        def dtcs(active:)
          speaking
            .flat_map { |ecu| ecu.dtcs.values }
            .select { |dtc| active ? dtc.bit?(Dtc::FAILED) : dtc.bit?(Dtc::CONFIRMED) && !dtc.bit?(Dtc::FAILED) }
        end

        # [[spn, fmi, count], ...], each number once.
        def codes(active:)
          names = SuspectParameters.new(@bus.vehicle.system.catalogue)
          dtcs(active: active)
            .filter_map { |dtc| names.of(*dtc.of)&.then { |spn, fmi| [spn, fmi, dtc.occurrences] } }
            .uniq { |spn, fmi, _| [spn, fmi] }
        end

        def frame((_, id, bytes), now)
          Protocols::Frame.new(time_s: now, bus: bus_name, id: id, extended: true, fd: false, data: bytes).freeze
        end
      end
    end
  end
end
