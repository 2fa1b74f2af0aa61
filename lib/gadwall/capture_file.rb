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

      case options["signal"]
      when "motor_current" then Signals::MotorCurrent.new(read(path), channel: options["channel"]).to_h
      when "pump_pressure" then Signals::PumpPressure.new(read(path), channel: options["channel"]).to_h
      when "live_data" then Signals::LiveData.new(live(path)).to_h
      else wheel_speed(path, options, teeth, sensor, metres)
      end
    end

    # With the ring, tooth by tooth, for a drawing.
    def self.with_ring(path, **options)
      found = Signals::WheelSpeed.new(read(path), **options)
      found.map ? found.to_h.merge(ring: found.map.teeth) : found.to_h
    end

    def self.wheel_speed(path, options, teeth, sensor, metres)
      Signals::WheelSpeed.new(read(path, options["channel"]), channel: options["channel"], teeth: teeth, sensor: sensor, circumference_m: metres).to_h
    end

    def self.live(path)
      File.open(path, "rb") { |io| Signals::LiveLog.read(io) }
    rescue SystemCallError => error
      raise InputError.new(field: "file", given: path, expected: "a file that can be read (#{error.message[/\A[^@]+/].strip})")
    end

    # The capture of a file, of one variable where it is a dump.
    def self.read(path, channel = nil)
      File.open(path, "rb") do |io|
        first = io.each_line.find { |line| !line.strip.empty? }.to_s
        io.rewind
        first.match?(DUMP) ? Signals::VcdCapture.read(io).only(channel) : Signals::CsvCapture.read(io)
      end
    rescue SystemCallError => error
      raise InputError.new(field: "file", given: path, expected: "a file that can be read (#{error.message[/\A[^@]+/].strip})")
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
    private_class_method :one_of, :number, :wheel_speed, :live
  end
end
