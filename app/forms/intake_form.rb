# frozen_string_literal: true

require "time"

module Web
  module Forms
    # A vehicle checked in. Gathers all field errors, keeps what was typed, yields the values of the act.
    class IntakeForm
      SENSORS = {
        "active" => "Active, two wires",
        "passive" => "Passive, two wires",
        "direction" => "Active, with direction and air gap data"
      }.freeze
      FIELDS =
        (
          %w[name plate vin customer complaint promised tyre teeth front rear like] + Gadwall::Vehicle::FIELDS.keys
        ).freeze

      # values: {field => text} as typed; errors: {field => sentence}.
      attr_reader :values, :errors, :symptoms, :triage, :lamps

      # An empty form.
      def self.empty
        new(Input.new({})).tap { |form| form.errors.clear }
      end

      # input: Input; known: {id => sheet} of the workshop's vehicle templates, to start from.
      def initialize(input, known: {})
        @known = known
        @values = FIELDS.to_h { |field| [field, input.text(field)] }
        @symptoms = input.list("symptoms")
        @triage = input.list("triage") & Gadwall::Decision::Triage::ASKED
        @lamps = LampsForm.new(input)
        @errors = {}
        check
      end

      def ok?
        errors.empty?
      end

      # For Gadwall::Job::Acts::TakeIn.
      def act_values
        {
          vehicle: vehicle,
          customer: values["customer"],
          complaint: values["complaint"],
          ids: symptoms,
          triage: triage,
          lamps: lamps.act_values,
          promised_at: promised_at&.utc&.iso8601
        }
      end

      # The vehicle sheet as a Hash with String keys: a known one where it is like that, else by the answers.
      def vehicle
        own = values.slice("name", "plate", "vin").reject { |_, value| value.empty? }
        return @known.fetch(values["like"]).merge(own) if @known.key?(values["like"])

        answers = values.slice("tyre", "teeth", *Gadwall::Vehicle::FIELDS.keys).reject { |_, value| value.empty? }
        own.merge(answers, "sensors" => { "front" => sensor("front"), "rear" => sensor("rear") })
      end

      private

      def sensor(name)
        values[name].empty? ? SENSORS.keys.first : values[name]
      end

      def promised_at
        values["promised"].empty? ? nil : Time.parse(values["promised"])
      rescue ArgumentError
        nil
      end

      def check
        length("name", 80, "what you call the vehicle, such as 'grey van'")
        length("customer", 200, "the customer's name")
        length("complaint", 4000, "what the customer says, in their words")
        errors["plate"] = "At most 20 letters. Shorten it." if values["plate"].length > 20
        errors["promised"] = "Enter a day and a time." if !values["promised"].empty? && promised_at.nil?
        check_vin
        check_symptoms
        Gadwall::Vehicle::Sheet.new(vehicle)
      rescue Gadwall::InputError => error
        field = error.field.split(".")[1] || error.field
        errors[{ "sensors" => "front" }.fetch(field, field)] = error.message
      end

      def length(field, most, expected)
        size = values[field].length
        return if size.between?(1, most)

        errors[field] = size.zero? ? "Enter #{expected}." : "#{size} letters; at most #{most}. Shorten it."
      end

      # A wrong check digit is told by the next page and never refused: outside some countries there is none.
      def check_vin
        vin = values["vin"]
        return if vin.empty? || Gadwall::Vehicle::VIN.well_formed?(vin)

        errors[
          "vin"
        ] = "'#{vin[0, 30]}' is not a VIN: 17 letters and digits, without I, O and Q. Leave it empty if it " \
          "cannot be read."
      end

      def check_symptoms
        unknown = symptoms.find { |id| !Gadwall::Knowledge.catalogue.symptoms.key?(id) }
        errors["symptoms"] = "'#{unknown[0, 40]}' is not on the list. Select again." if unknown
        errors["lamps"] = lamps.error if lamps.error
      end
    end
  end
end
