# frozen_string_literal: true

module Gadwall
  module Simulator
    # A simulated vehicle's bus as text, line by line both ways (`bin/gadwall simulate --listen`): frames as in a bus
    # log, "# until SECONDS" for what the vehicle sent up to then, "! ..." to change the vehicle.
    class Listener
      UNTIL = /\A#\s*until\s+(\d{1,12}(?:\.\d{1,20})?)\s*\z/
      CHANGE = /\A!\s*(\w+)(?:\s+(.*?))?\s*\z/
      MOST_AHEAD_S = 3600.0 # further ahead is a slip: no session lasts an hour
      KEYS = { "on" => "on", "off" => "off" }.freeze
      FORMS =
        "a frame, '# until SECONDS', or '! key on|off', '! running', '! speed KM_H', '! pedal pressed|released', " \
          "'! support on|off', '! steering DEGREES', '! fault FAULT', '! mend CIRCUIT'"

      # vehicle: VehicleUnderTest; real_time: does the clock of whoever serves it count, instead of the lines'?
      def initialize(vehicle, real_time: false)
        @vehicle = vehicle
        @bus = Bus.new(vehicle)
        @real_time = real_time
        @begun = false
      end

      # line: text; now: seconds of whoever serves it, in real time. Returns the lines that it is answered by.
      def take(line, now = nil)
        text = line.to_s.scrub("?").strip
        return [] if text.empty?
        return change(text) if text.start_with?("!")
        return up_to(text, now) if text.start_with?("#")

        hear(Protocols::LogReader.new.frame(text, 1), now)
      rescue Error => error
        ["# ? #{error.message.gsub(/\s+/, " ")}"]
      end

      # What the vehicle sent up to some seconds, as lines.
      def sent_up_to(now)
        begin_at(now)
        @bus.advance(now)
        @bus.sent.map(&:to_line)
      end

      # When it sends next, in seconds, or nil.
      def next_at
        @bus.next_at
      end

      private

      # The clock begins with the first time that is told.
      def begin_at(seconds)
        @bus.start_at(seconds) unless @begun
        @begun = true
      end

      def hear(frame, now)
        return [] if frame.is_a?(Symbol) # error and remote frames are passed over

        frame = frame.dup.tap { |copy| copy.time_s = now } if @real_time
        ahead!(frame.time_s)
        begin_at(frame.time_s)
        @bus.take(frame)
        []
      end

      def up_to(text, now)
        seconds = text[UNTIL, 1] or return unknown(text)

        to = @real_time ? now : seconds.to_f
        ahead!(to)
        lines = sent_up_to(to)
        [*lines, format("# now %.6f", @bus.now)]
      end

      def ahead!(seconds)
        return unless @begun && seconds - @bus.now > MOST_AHEAD_S

        raise InputError.new(
                field: "time",
                given: seconds,
                expected: "at most #{MOST_AHEAD_S.round} s after #{@bus.now.round(6)}"
              )
      end

      def change(text)
        name, value = text.match(CHANGE)&.captures
        return unknown(text) unless name

        done =
          case name
          when "fault"
            @vehicle.harm(fault_named(value.to_s))
          when "mend"
            mended(value.to_s)
          else
            settings = settings_of(name, value.to_s) or return unknown(text)
            @vehicle.change(**settings)
          end
        @bus.changed if done
        []
      end

      # Settings of the state that a change makes, or nil for none that is known.
      def settings_of(name, value)
        case name
        when "key"
          { key: KEYS[value], speed_km_h: 0.0 } if KEYS.key?(value)
        when "running"
          { key: "ready" } if value.empty?
        when "speed"
          number(value)&.then { |speed| { key: "ready", gear: speed.positive? ? "drive" : "park", speed_km_h: speed } }
        when "pedal"
          { pedal: value } if %w[pressed released].include?(value)
        when "support"
          { support: value == "on" } if %w[on off].include?(value)
        when "steering"
          number(value)&.then { |degrees| { steering_deg: degrees } }
        end
      end

      def number(text)
        Quantity::Decimal.read(text)
      end

      # The full name of a fault: as given, or the first whose name says the same without its place
      # ("front_left.wire_signal.open").
      def fault_named(given)
        id, severity = given.split("@", 2)
        circuit, rest = id.to_s.split(".", 2)
        found = @vehicle.system.circuits.find { |each| each.id == circuit }
        names = found ? found.model.faults.map(&:id) : []
        return given if names.include?(rest) || rest.nil?

        part, mode = rest.split(".", 2)
        name = names.find { |each| each.start_with?("#{part}.") && each.end_with?(".#{mode}") }
        name ? [["#{circuit}.#{name}", severity].compact.join("@")].first : given
      end

      # A circuit, or one of its places ("front_left/sensor").
      def mended(given)
        circuit, place = given.split("/", 2)
        @vehicle.system.circuit_named(circuit)
        place ? @vehicle.wiring.mend(given) : @vehicle.wiring.mend_circuit(circuit)
        true
      end

      def unknown(text)
        ["# ? #{text[0, 60].inspect}: expected #{FORMS}"]
      end
    end
  end
end
