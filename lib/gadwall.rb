# frozen_string_literal: true

require "zeitwerk"

# Gadwall's core: plain values in, plain values out. No web, no database, no clock, no randomness.
#
# The parts, in the order in which a job flows through them:
#
#   knowledge/   what the trade knows, read from data/ once, every number with its source
#   quantity/    what people type and what meters show: numbers with units
#   codes/       trouble-code words, failure types, status bits, what a code claims
# signals/ captures and live data: files/ reads them, wheel/, live/ and motor_and_pump/ analyse them, as_evidence takes
#                what was found to a job (docs/signals.md)
#   sums/        what the trade reckons by hand: hydraulics
#   network_log/ bus logs: frames, messages, diagnostic answers, heavy vehicles' codes and wheel speeds
#   circuits/    netlists, the solver, lines as data, and faults put in
#   testing/     the tests of a line, and what each fault would make them and the module's monitors show
#   vehicle/     the vehicle sheet, and the System of circuits built from it
#   evidence/    what was seen: scans, readings, looks, and the log that holds them
#   diagnosis/   suspects, next test, verdict and its gates: the one entry Diagnosis.assess
#   decision/    what each way to act costs
#   repair/      the steps that the job asks for, with holds and waits
#   proof/       scans compared, the drive, the reading repeated
#   job/         where a job stands, derived from its log
#   case_file/   a whole job as JSON, in and out; vehicle_file, scan_file and capture_file for the rest; command_line.rb
#                reaches them all from a shell
#   input_file, cells   a named file opened, a line of a table taken apart: for every reader of files
#   bench/       simulated vehicles with hidden faults
#
# Each part uses those above it (bench and job use all they need), none below.
module Gadwall
  ROOT = File.expand_path("..", __dir__)

  # The Zeitwerk::Loader of the core.
  def self.loader
    @loader ||=
      Zeitwerk::Loader.new.tap do |loader|
        loader.push_dir(__dir__)
        loader.ignore("#{__dir__}/gadwall/errors.rb")
        # its rooms: files, wheel, live, motor_and_pump; all is Gadwall::Signals
        loader.collapse("#{__dir__}/gadwall/signals/*/")
        loader.inflector.inflect(
          "si_format" => "SIFormat",
          "vin" => "VIN",
          "lu" => "LU",
          "spn" => "SPN",
          "assessment_json" => "AssessmentJSON"
        )
        loader.setup
      end
  end
end

require_relative "gadwall/errors"
Gadwall.loader
