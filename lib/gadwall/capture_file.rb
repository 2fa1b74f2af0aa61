# frozen_string_literal: true

module Gadwall
  # A capture out of a file, analysed: what `bin/gadwall capture` prints.
  module CaptureFile
    SIGNALS = %w[wheel_speed motor_current pump_pressure live_data].freeze
    SENSORS = %w[passive active].freeze
    DUMP = /\A\s*\$[a-z]/

    # path: of a CSV or VCD file; options: {"signal", "teeth", "sensor", "channel", "circumference"}, Strings.
    # Returns a Hash. Raises InputError.
    def self.analyse(path, options)
      one_of("--signal", options["signal"], SIGNALS)
      sensor = options["sensor"] && one_of("--sensor", options["sensor"], SENSORS)
      teeth = options["teeth"] && number("--teeth", options["teeth"], 4, 400, "whole teeth or pole pairs in a turn", whole: true)
      metres = options["circumference"] && number("--circumference", options["circumference"], 0.3, 8, "metres")

      of(path, options["signal"], channel: options["channel"], teeth: teeth, sensor: sensor, circumference_m: metres)
    end

    # The same of values that are known to be sound. signal: one of SIGNALS; ring: with the ring, tooth by tooth, for a
    # drawing; wheel: teeth, sensor and circumference_m as WheelSpeed takes them.
    def self.of(path, signal, channel: nil, ring: false, **wheel)
      case signal
      when "motor_current" then Signals::MotorCurrent.new(read(path), channel: channel).to_h
      when "pump_pressure" then Signals::PumpPressure.new(read(path), channel: channel).to_h
      when "live_data" then Signals::LiveData.new(InputFile.open(path) { |io| Signals::LiveLog.read(io) }).to_h
      else
        found = Signals::WheelSpeed.new(read(path, channel), channel: channel, **wheel)
        ring && found.map ? found.to_h.merge(ring: found.map.teeth) : found.to_h
      end
    end

    # The capture of a file, of one variable where it is a dump.
    def self.read(path, channel = nil)
      InputFile.open(path) do |io|
        first = io.each_line.find { |line| !line.strip.empty? }.to_s
        io.rewind
        first.match?(DUMP) ? Signals::VcdCapture.read(io).only(channel) : Signals::CsvCapture.read(io)
      end
    end

    def self.one_of(field, given, allowed)
      return given if allowed.include?(given)

      raise UnknownNameError.new(field: field, given: given, known: allowed)
    end

    def self.number(field, given, low, high, what, whole: false)
      value = whole ? Integer(given, 10, exception: false) : Float(given.tr(",", "."), exception: false)
      return value if value&.between?(low, high)

      raise InputError.new(field: field, given: given, expected: "#{low} to #{high} #{what}")
    end
    private_class_method :one_of, :number
  end
end
