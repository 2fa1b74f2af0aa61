# frozen_string_literal: true

require "json"
require "stringio"

module Gadwall
  module Signals
    # A capture out of a file, analysed: what `bin/gadwall capture` prints.
    module CaptureFile
      SIGNALS = %w[wheel_speed motor_current pump_pressure live_data].freeze
      SENSORS = %w[passive active].freeze
      DUMP = /\A\s*\$[a-z]/
      READING = 0.5 # of the time is gone when the file is read
      ANALYSED = 0.9 # and when it is analysed

      # path: of a CSV or VCD file; options: {"signal", "teeth", "sensor", "channel", "circumference", "columns"},
      # Strings. Returns a Hash. Raises InputError.
      def self.analyse(path, options)
        of(path, options["signal"], **checked(options))
      end

      # The same with all that a page shows: "ring" (tooth by tooth), "marks" (when each finding shows), "overview" (in
      # words) and "tooth_hz". Returns [Hash, Signals::Waveform].
      # on_progress: called with the share of the work that is done, 0..1, or nil.
      def self.view(path, options, on_progress: nil)
        of(path, options["signal"], view: true, on_progress: on_progress, **checked(options))
      end

      def self.checked(options)
        one_of("--signal", options["signal"], SIGNALS)
        {
          channel: options["channel"],
          teeth:
            options["teeth"] &&
              number("--teeth", options["teeth"], 4, 400, "whole teeth or pole pairs in a turn", whole: true),
          sensor: options["sensor"] && one_of("--sensor", options["sensor"], SENSORS),
          circumference_m:
            options["circumference"] && number("--circumference", options["circumference"], 0.3, 8, "metres"),
          columns: options["columns"] ? columns(options["columns"]) : {}
        }
      end

      # The same of values that are known to be sound. columns: of live data, {name => parameter id or ""}.
      def self.of(
        path,
        signal,
        channel: nil,
        teeth: nil,
        sensor: nil,
        circumference_m: nil,
        columns: {},
        view: false,
        on_progress: nil
      )
        reading = on_progress && ->(share) { on_progress.call(share * READING) }
        analysis =
          case signal
          when "motor_current"
            Signals::MotorCurrent.new(read(path, on_progress: reading), channel: channel)
          when "pump_pressure"
            Signals::PumpPressure.new(read(path, on_progress: reading), channel: channel)
          when "live_data"
            Signals::LiveData.new(
              InputFile.open(path, on_progress: reading) { |io| Signals::LiveLog.read(io, mapping: columns) },
              circumference_m: circumference_m
            )
          else
            Signals::WheelSpeed.new(
              read(path, channel, on_progress: reading),
              channel: channel,
              teeth: teeth,
              sensor: sensor,
              circumference_m: circumference_m
            )
          end
        on_progress&.call(ANALYSED)
        view ? viewed(analysis) : analysis.to_h
      end

      # A log of live data that was handed in before, with its columns taken for something else. text: of the file.
      # Returns [Hash, Signals::Waveform].
      def self.view_log(text, columns:, circumference_m:)
        viewed(
          Signals::LiveData.new(
            Signals::LiveLog.read(StringIO.new(text), mapping: columns),
            circumference_m: circumference_m
          )
        )
      end

      def self.viewed(analysis)
        trace = analysis.trace
        overview =
          trace.panels.map do |panel|
            { title: panel.title, unit: panel.unit, series: panel.series.keys, rows: trace.table(panel) }
          end
        [analysis.to_h.merge(analysis.drawn, marks: analysis.marks, overview: overview), trace]
      end

      # The capture of a file, of one variable where it is a dump.
      def self.read(path, channel = nil, on_progress: nil)
        InputFile.open(path, on_progress: on_progress) do |io|
          first = TextLines.first(io)
          first.match?(DUMP) ? Signals::VcdCapture.read(io).only(channel) : Signals::CsvCapture.read(io)
        end
      end

      def self.one_of(field, given, allowed)
        return given if allowed.include?(given)

        raise UnknownNameError.new(field: field, given: given, known: allowed)
      end

      def self.number(field, given, low, high, what, whole: false)
        value = whole ? Integer(given, 10, exception: false) : Quantity::Decimal.read(given)
        return value if value&.between?(low, high)

        raise InputError.new(field: field, given: given, expected: "#{low} to #{high} #{what}")
      end

      # text: JSON, {"column name": "parameter id, or nothing for none"}.
      def self.columns(text)
        taken = JSON.parse(text)
        return taken if taken.is_a?(Hash) && taken.values.all?(String)

        raise InputError.new(
                field: "--columns",
                given: text[0, 40],
                expected: 'a JSON object such as {"Sensor 3": "wheel_rear_left", "Sensor 9": ""}'
              )
      rescue JSON::ParserError
        raise InputError.new(
                field: "--columns",
                given: text[0, 40],
                expected: 'a JSON object such as {"Sensor 3": "wheel_rear_left", "Sensor 9": ""}'
              )
      end
      private_class_method :one_of, :number, :columns, :checked, :viewed
    end
  end
end
