# frozen_string_literal: true

module Gadwall
  module Knowledge
    # Everything in data/, by name.
    class Catalogue
      attr_reader :circuits,
                  :fitted,
                  :questions,
                  :builds,
                  :circumstances,
                  :modules,
                  :lamps,
                  :claims,
                  :failure_types,
                  :chassis_codes,
                  :circuit_words,
                  :abbreviations,
                  :one_parts,
                  :forms,
                  :side_words,
                  :j1939,
                  :failure_modes_j1939,
                  :negative_responses,
                  :signal,
                  :live_parameters,
                  :findings,
                  :access,
                  :cautions,
                  :gates,
                  :unknowns,
                  :repairs,
                  :rules,
                  :plan_words,
                  :touches,
                  :states,
                  :conditions,
                  :by_vehicle,
                  :stays_off,
                  :reach,
                  :off_road,
                  :first_steps,
                  :first_needs,
                  :first_drive,
                  :earlier_words,
                  :drive,
                  :drive_legs,
                  :symptoms,
                  :simulated_modules,
                  :data_identifiers,
                  :routines,
                  :looks,
                  :dangers,
                  :exercises,
                  :rubric,
                  :day_pieces,
                  :pad_rules

      # folder: the path of data/. Raises KnowledgeError for a record that cannot be used.
      def initialize(folder) # rubocop:disable Metrics/MethodLength -- one pass, step by step
        @folder = folder
        @circuits = templates.freeze
        @fitted = by_id("vehicle/circuits")
        @questions = by_id("vehicle/questions")
        @builds = by_id("vehicle/builds")
        @circumstances = list("vehicle/circumstances")
        @modules = by_id("vehicle/modules")
        @lamps = by_id("vehicle/lamps")
        @claims = by_id("codes/claims")
        @failure_types = by_id("codes/failure_types")
        @chassis_codes = by_id("codes/chassis")
        @circuit_words = list("codes/circuit_words")
        @forms = list("tests/forms").flat_map { |row| row["tests"].map { |id| [id, row["id"]] } }.to_h.freeze
        @one_parts = list("vehicle/one_parts")
        @abbreviations = list("codes/abbreviations").map { |row| [whole_word(row["short"]), row["means"]] }.freeze
        @side_words = list("codes/side_words")
        @j1939 = by_id("codes/j1939")
        @signal = by_id("diagnosis/signal")
        @findings = by_id("codes/findings")
        @live_parameters = by_id("diagnosis/live_parameters")
        @negative_responses = by_id("codes/negative_responses")
        @failure_modes_j1939 = by_id("codes/j1939_fmi")
        @access = by_id("tests/access")
        @cautions = by_id("tests/cautions")
        @gates = by_id("diagnosis/gates")
        @unknowns = list("diagnosis/unknowns")
        @repairs = by_id("repairs/options")
        @rules = Dir[path("repairs/rules/*.yml")].flat_map { |file| Records.list(file) }.freeze
        @plan_words = by_id("repairs/vocabulary")
        @touches = list("repairs/touches")
        @states = by_id("repairs/states")
        @conditions = by_id("repairs/conditions")
        @by_vehicle = by_id("repairs/by_vehicle")
        @stays_off = by_id("repairs/stays_off")
        @reach = list("repairs/reach")
        @off_road = list("repairs/off_road")
        @first_steps = by_id("archive/steps_1")
        @earlier_words = by_id("archive/outcome_words_1").transform_values { |row| row["words"] }.freeze
        @first_needs = by_id("archive/needs_1").transform_values { |row| row["needs"] }.freeze
        @drive = by_id("repairs/drive")
        @drive_legs = by_id("repairs/drive_legs")
        @first_drive = by_id("archive/drive_1")
        @symptoms = by_id("codes/symptoms")
        @simulated_modules = by_id("simulation/modules")
        @data_identifiers = by_id("simulation/data_identifiers")
        @routines = by_id("simulation/routines")
        @looks = by_id("simulation/looks")
        @dangers = by_id("practice/dangers")
        @exercises = list("practice/exercises")
        @rubric = by_id("practice/rubric")
        @day_pieces = by_id("day/pieces")
        @pad_rules = by_id("pads/rules")
      end

      # [[module id, Patterns], ...] of the names by which modules are known, the longest first: "trailer brake" before
      # "brake".
      def module_patterns
        @module_patterns ||=
          modules
            .values
            .map { |row| [row["id"], Patterns.new(patterns: row["patterns"], none_of: row["unless"], prefix: "\\b")] }
            .sort_by { |_, patterns| -patterns.length }
            .freeze
      end

      # How long a step of a plan takes and what it needs (day/pieces): by its rule, else by its phase; steps of the
      # first rules have none. rule: id or nil; phase: text.
      def day_piece(rule, phase)
        day_pieces[rule] || day_pieces[phase] || day_pieces.fetch("work")
      end

      # The words by which a record of this catalogue is recognised, made once: every job that is opened asks for them.
      # record: the record itself. Returns Patterns.
      def patterns(record)
        (@patterns ||= {}.compare_by_identity)[record] ||= Patterns.of(record)
      end

      # Ways to fail of one file in data/parts, as records.
      def failure_modes(name)
        list("parts/#{name}")
      end

      # Quick sums of one group, as records. group: name of a file in data/sums.
      def sums(group)
        list("sums/#{group}")
      end

      # Tests for a circuit template: those of its family (unless it is wired otherwise), its own, and those that it
      # names.
      def tests(template)
        names = [
          ("tests/#{template["family"]}" unless template["family_tests"] == false),
          "tests/#{template["id"]}",
          *(template["tests"] || []).map { |name| "tests/#{name}" },
          "tests/common"
        ].compact.uniq
        names.select { |name| File.exist?(path("#{name}.yml")) }.flat_map { |name| list(name) }
      end

      # Ohms of a metre of bare copper at 20 degrees C. cross_section_mm2: a size of the table.
      def wire_ohm_per_m(cross_section_mm2)
        sizes = list("parts/wire").to_h { |record| [record["id"].to_f, record["mohm_per_m"] / 1000.0] }
        sizes.fetch(cross_section_mm2.to_f) do
          raise UnknownNameError.new(
                  field: "cross_section_mm2",
                  given: cross_section_mm2,
                  known: sizes.keys.map(&:to_s)
                )
        end
      end

      # A figure of every connector. id: of data/parts/connector.yml. Returns a number in its unit.
      def connector_value(id)
        list("parts/connector").find { |record| record["id"] == id }.fetch("value")
      end

      # The assumed meter for "ohm", "V" or "A".
      def meter(unit)
        record = list("meter").find { |row| row["id"] == unit }
        Quantity::Meter.new(**record.except("id").transform_keys(&:to_sym))
      end

      # One number of data/diagnosis/model.yml by its id.
      def model(id)
        @model ||= by_id("diagnosis/model")
        @model.fetch(id).fetch("value")
      end

      # A negative response in words: "22 conditions not correct". code: "22"; one that nobody knows stands alone.
      def refusal(code)
        "#{code} #{negative_responses.dig(code, "text")}".strip
      end

      # Short: an error message must not print all of data/.
      def inspect
        "#<#{self.class}>"
      end

      private

      # Circuit templates by id. A template may be like another: what it does not say itself, that one says.
      def templates
        records = Dir[path("circuits/*.yml")].map { |file| Records.one(file) }.to_h { |record| [record["id"], record] }
        records.transform_values do |record|
          record["like"] ? records.fetch(record["like"]).merge(record).freeze : record
        end
      end

      # What stands alone or between marks, in large or small letters: Regexp.
      def whole_word(words)
        %r{(?<![\w/])(?:#{words.join("|")})(?![\w/])}i
      end

      def path(name)
        File.join(@folder, name)
      end

      def list(name)
        @lists ||= {}
        @lists[name] ||= Records.list(path("#{name}.yml"))
      end

      def by_id(name)
        list(name).to_h { |record| [record["id"], record] }.freeze
      end
    end
  end
end
