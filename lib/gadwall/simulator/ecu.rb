# frozen_string_literal: true

module Gadwall
  module Simulator
    # One control module: the circuits that it reads, its monitors in time, its codes, what it has learned, and what it
    # says of itself.
    class Ecu
      SESSIONS = { 0x01 => "default", 0x02 => "programming", 0x03 => "extended" }.freeze
      SESSION_ENDS_S = 5.0 # ISO 14229-2: S3 server, from memory

      attr_reader :id, :record, :dtcs, :learned, :written, :circuits
      attr_accessor :session, :unlocked, :seed, :last_heard_s, :running

      # record: of data/simulation/modules.yml; circuits: those that it reads; vehicle: VehicleUnderTest.
      def initialize(record, circuits, vehicle)
        @id = record["id"]
        @record = record
        @circuits = circuits
        @vehicle = vehicle
        @dtcs = {}
        @learned = {}
        @written = {}
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

      # After a reset, or with the key turned off and on: the default session, locked.
      def restart
        @session = 0x01
        @unlocked = false
        @seed = nil
        @last_heard_s = 0.0
        @running = {}
      end

      # Runs its monitors once in the vehicle's state. missing: ids of modules that do not speak now.
      def look(state, missing: [])
        monitored(state, missing).each do |circuit_id, claims|
          circuit = circuits.find { |each| each.id == circuit_id }
          claims.each { |claim, failed| dtc(circuit, claim, failed)&.ran(failed, now: frozen(state)) }
        end
      end

      # A new operation cycle: key off and on.
      def new_cycle
        @dtcs.each_value(&:new_cycle)
      end

      # Array of Dtc whose status has one of the bits of the mask.
      def codes(mask = 0xFF)
        dtcs.values.select { |each| each.status.anybits?(mask & 0xFF) && each.status != Dtc::CLEARED }
      end

      # Erases all codes; monitors begin anew.
      def clear
        @dtcs.each_value(&:clear)
      end

      # Does any code stand that failed last time?
      def failing?
        dtcs.values.any? { |each| each.bit?(Dtc::FAILED) }
      end

      private

      def monitored(state, missing)
        circuits.to_h do |circuit|
          [circuit.id, own(@vehicle.monitored(circuit, state).merge(missed(circuit, missing)))]
        end
      end

      # Who hangs on a bus and says nothing is missed there.
      def missed(circuit, missing)
        members = circuit.harness.modules.map(&:first)
        (members & missing).to_h { |id| ["lost_#{id}", true] }
      end

      # It does not miss itself.
      def own(claims)
        claims.except("lost_#{id}")
      end

      # A code is kept from its first failure on.
      def dtc(circuit, claim, failed)
        word = @vehicle.dtc_table.word(circuit, claim)
        return @dtcs[word.to_s] unless failed || @dtcs.key?(word.to_s)

        @dtcs[word.to_s] ||= Dtc.new(word)
      end

      def frozen(state)
        {
          "speed_km_h" => state.speed_km_h,
          "system_voltage" => state.battery_volt.round(2),
          "clock_s" => state.clock_s
        }
      end
    end
  end
end
