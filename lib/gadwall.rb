# frozen_string_literal: true

require "zeitwerk"

# Gadwall's core: plain values in, plain values out. No web, no database, no clock, no randomness.
#
# The parts, in the order in which a job flows through them:
#
#   knowledge/   what the trade knows, read from data/ once, every number with its source
#   quantity/    what people type and what meters show: numbers with units
#   codes/       trouble-code words, failure types, status bits, what a code claims
#   vehicle/     the vehicle sheet, and the System of circuits built from it
#   circuits/    netlists, the solver, and faults put in: what a sound or faulty circuit would show
#   evidence/    what was seen: scans, readings, looks
#   diagnosis/   hypotheses, likelihoods, next test, verdict: the one entry Diagnosis.assess
#   decision/    what each way to act costs
#   repair/      the steps that the job asks for, with holds and waits
#   proof/       scans compared, the drive plan, the reading repeated
#   job/         where a job stands, derived from its log
#   case_file/   a whole job as JSON, in and out
#   bench/       simulated vehicles with hidden faults
module Gadwall
  ROOT = File.expand_path("..", __dir__)

  def self.loader
    @loader ||= Zeitwerk::Loader.new.tap do |loader|
      loader.push_dir(__dir__)
      loader.ignore("#{__dir__}/gadwall/errors.rb")
      loader.inflector.inflect("si_format" => "SIFormat", "vin" => "VIN", "lu" => "LU", "assessment_json" => "AssessmentJSON")
      loader.setup
    end
  end
end

require_relative "gadwall/errors"
Gadwall.loader
