# frozen_string_literal: true

module Web
  module Forms
    # A vehicle taken in. Gathers all field errors, keeps what was typed, yields the sheet.
    class IntakeForm
      SENSORS = {
        "active" => "Active, two wires",
        "passive" => "Passive, two wires",
        "direction" => "Active, tells direction and gap"
      }.freeze
      FIELDS = (%w[name vin customer complaint tyre teeth front rear like] + Gadwall::Vehicle::FIELDS.keys).freeze
      TRIAGE = {
        "red_lamp" => "Red brake lamp on",
        "soft_pedal" => "Pedal without force, or sinking",
        "dark_brake_lights" => "Brake lights do not light",
        "park_brake_fails" => "Park brake will not hold or let go"
      }.freeze

      attr_reader :values, :errors, :symptoms, :triage

      # known: {id => sheet} of the shop's vehicle templates, to start from.
      def initialize(params, known: {})
        @known = known
        @values = FIELDS.to_h { |field| [field, params[field].to_s.strip] }
        @symptoms = Array(params["symptoms"]).map(&:to_s)
        @triage = Array(params["triage"]).map(&:to_s) & TRIAGE.keys
        @errors = {}
        check
      end

      def ok?
        errors.empty?
      end

      # The vehicle sheet as a Hash with String keys: a known one where it is like that, else by the answers.
      def vehicle
        own = values.slice("name", "vin").reject { |_, value| value.empty? }
        return @known.fetch(values["like"]).merge(own) if @known.key?(values["like"])

        answers = values.slice("tyre", "teeth", *Gadwall::Vehicle::FIELDS.keys).reject { |_, value| value.empty? }
        own.merge(answers, "sensors" => { "front" => values["front"], "rear" => values["rear"] })
      end

      # The first entry of the log.
      def symptoms_entry
        { "kind" => "symptoms", "ids" => symptoms, "words" => values["complaint"], "triage" => triage }
      end

      private

      def check
        length("name", 80, "what you call the vehicle, such as 'grey van, plate end 42'")
        length("customer", 200, "the customer's name")
        length("complaint", 4000, "what the customer says, in his words")
        check_vin
        Gadwall::Vehicle::Sheet.new(vehicle)
        unknown = symptoms - Gadwall::Knowledge.catalogue.symptoms.keys
        errors["symptoms"] = "'#{unknown.first}' is not on the list. Tick again." if unknown.any?
      rescue Gadwall::InputError => error
        field = error.field.split(".")[1] || error.field
        errors[{ "sensors" => "front" }.fetch(field, field)] = error.message
      end

      def length(field, most, expected)
        size = values[field].length
        return if size.between?(1, most)

        errors[field] = size.zero? ? "Empty. Enter #{expected}." : "#{size} letters; at most #{most}. Shorten it."
      end

      # A wrong check digit is told by the intake page and never refused: outside some countries there is none.
      def check_vin
        vin = values["vin"]
        return if vin.empty? || Gadwall::Vehicle::VIN.well_formed?(vin)

        errors[
          "vin"
        ] = "'#{vin[0, 30]}' is not an identification number: 17 letters and digits, without I, O and Q. Leave it " \
          "empty if it cannot be read."
      end
    end
  end
end
