# frozen_string_literal: true

module Gadwall
  module Simulator
    # One control module: the circuits that it reads, its monitors in time, its codes, what it has learned, and what it
    # says of itself.
    class Ecu
      DEFAULT = 0x01
      SESSION_ENDS_S = 5.0 # ISO 14229-2: S3 server, from memory
      STORED = 0xAF # bits of a status that tell of a failure; the others tell what has not run yet

      attr_reader :id, :record, :learned, :written, :circuits, :session
      # seed: of security access, nil where none is out; attempts: at its key, kept over a reset; closed_until_s: until
      # when no seed is given; mute: does it send nothing beside diagnosis?; setting: do its monitors write codes?
      attr_accessor :unlocked, :seed, :last_heard_s, :running, :attempts, :closed_until_s, :mute, :setting

      # record: of data/simulation/modules.yml; circuits: those that it reads; vehicle: VehicleUnderTest.
      def initialize(record, circuits, vehicle)
        @id = record["id"]
        @record = record
        @circuits = circuits
        @vehicle = vehicle
        @learned = {}
        @written = {}
        @attempts = 0
        restart
      end

      # Its name as it says it.
      def name
        record["name"]
      end

      # Id of requests to it, and of its answers.
      def request_id
        record["request"]
      end

      def response_id
        request_id + Protocols::Addresses::OFFSET
      end

      # Its address in ids of 29 bits (ISO 15765-4 names engine and gearbox; the others by their request).
      def node
        record["node"] || ((request_id >> 4) & 0xFF)
      end

      # After a reset, or with the key turned off and on.
      def restart
        @last_heard_s = 0.0
        begin_session(DEFAULT)
      end

      # Another session: locked, and what the last one had changed is back.
      def begin_session(kind)
        @session = kind
        @unlocked = false
        @seed = nil
        @running = {}
        @mute = false
        @setting = true
      end

      # Back to the default session.
      def end_session
        begin_session(DEFAULT)
      end

      # Every code that it can set: {word => Dtc}.
      def dtcs
        @dtcs ||= words.uniq { |each| each[0].to_s }.to_h { |word, *of| [word.to_s, Dtc.new(word, of: of)] }
      end

      # Runs its monitors once in the vehicle's state. missing: ids of modules that do not speak now.
      def look(state, missing: [])
        return unless setting

        seen = Hash.new(false)
        monitored(state, missing).each do |circuit, claims|
          claims.each { |claim, failed| seen[@vehicle.dtc_table.word(circuit, claim).to_s] |= failed }
        end
        seen.each { |word, failed| dtcs[word]&.ran(failed, now: frozen(state)) }
      end

      # A new operation cycle: key off and on.
      def new_cycle
        dtcs.each_value(&:new_cycle)
      end

      # Array of Dtc whose status has one of the bits of the mask.
      def codes(mask = STORED)
        dtcs.values.select { |each| each.bit?(mask & 0xFF) }
      end

      # Erases all codes; monitors begin anew.
      def clear
        dtcs.each_value(&:clear)
      end

      # Does any code stand that failed last time?
      def failing?
        dtcs.values.any? { |each| each.bit?(Dtc::FAILED) }
      end

      private

      # [[word, circuit, claim], ...] of all its monitors.
      def words
        circuits.flat_map do |circuit|
          claims = @vehicle.claims(circuit) - ["lost_#{id}"]
          claims.map { |claim| [@vehicle.dtc_table.word(circuit, claim), circuit, claim] }
        end
      end

      def monitored(state, missing)
        circuits.to_h { |circuit| [circuit, own(@vehicle.monitored(circuit, state).merge(missed(circuit, missing)))] }
      end

      # Who hangs on a bus and says nothing is missed there; who speaks is not.
      def missed(circuit, missing)
        members = circuit.harness.modules.map(&:first)
        (members & missing).to_h { |id| ["lost_#{id}", true] }
      end

      # It does not miss itself.
      def own(claims)
        claims.except("lost_#{id}")
      end

      def frozen(state)
        {
          "speed_km_h" => state.speed_km_h,
          "system_voltage" => @vehicle.system_volt.round(2),
          "clock_s" => state.clock_s
        }
      end
    end
  end
end
