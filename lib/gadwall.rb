# frozen_string_literal: true

require "time"
require "zeitwerk"

# Gadwall's core: plain values in, plain values out. No web, no database, no clock, no randomness.
#
# The parts, in the order in which a job flows through them:
#
#   quantity/      what people type and what meters show: numbers with units; middle values, wheel geometry
#   knowledge/     what the trade knows, read from data/ once, every number with its source
#   circuits/      netlists, the solver, harnesses as data, and faults put in
#   tests/         the tests of a harness, and what each fault would make them and the module's monitors show
#   vehicle/       the vehicle sheet, and the System of circuits built from it
#   observations/  what was seen, as values: scans, readings, looks
#   trouble_codes/ DTCs, failure types, status bits, what a code claims
#   protocols/     bus logs: frames, messages, diagnostic answers, heavy vehicles' codes and wheel speeds
#   signals/       captures and live data: files/ reads them, wheel/, live/ and motor_and_pump/ analyse them; then
#                  as_evidence takes what was found to a job (docs/signals.md)
#   calculators/   the small sums of the trade, found by name, with formula and source
#   pads/          pads and discs: linings, what unequal ones tell, how far they go
#   diagnosis/     from evidence to a verdict, by the one entry Diagnosis.assess: model/ weighs what was seen,
#                  inference/ makes probabilities of it, planning/ picks the next test, verdict/ says what is proven
#   repair/        what the hands touch, and the steps that it asks for, with holds and waits
#   instruments/   meter and diagnostic interface, behind what a real one would be held to
#   simulator/     a vehicle to plug into: wiring with hidden faults, modules, the diagnostic protocol
#   decision/      what each way to act costs and brings along, and why it may be refused
#   verification/  scans compared, the road test, the confirming test repeated
#   job/           entries, acts and what follows from the log
#   scheduling/    who does what, where and when: the steps of jobs planned over people, places and tools
#   case_file/     a whole job as JSON, in and out; vehicle_file for the sheet alone
#   training/      exercises on simulated vehicles, the stand with its instruments, and how it went
#   cli/           `bin/gadwall`: one file a command
#
# input_file, text_lines and cells serve every reader of files. Each part uses those above it (a job and the bench all
# they need), none below; spec/core/laws/order_spec.rb looks.
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
        # model, inference, planning, verdict; all is Gadwall::Diagnosis
        loader.collapse("#{__dir__}/gadwall/diagnosis/*/")
        loader.inflector.inflect(
          "si_format" => "SIFormat",
          "vin" => "VIN",
          "lu" => "LU",
          "spn" => "SPN",
          "assessment_json" => "AssessmentJSON",
          "iso_tp" => "IsoTp",
          "cli" => "CLI"
        )
        loader.setup
      end
  end
end

require_relative "gadwall/errors"
Gadwall.loader
