# frozen_string_literal: true

module Web
  module Routes
    # What the workshop charges. What was signed keeps the figures that it was signed with.
    module Settings
      def self.registered(app)
        app.get("/settings") { show_settings(saved: input.given?("saved")) }

        app.post("/settings") do
          edits = input.fields("edits").select { |_, row| row.is_a?(Hash) }
          values = { "rate" => input.text("rate"), "currency" => input.text("currency"), "edits" => edits }
          shop, errors = Gadwall::Decision::Shop.typed(values, Gadwall::Knowledge.catalogue)
          if shop
            workshop.charge(shop, by: person)
            redirect "/settings?saved=1", 303
          end
          status 422
          show_settings(errors: errors, typed: values)
        end

        app.post("/settings/units") do
          chosen = Gadwall::Quantity::Units::CHOICES.keys.to_h { |kind| [kind, input.text_or_nil(kind)] }.compact
          settings.workshop.like(Gadwall::Quantity::Preferences.new(chosen), by: person)
          redirect "/settings?saved=1", 303
        rescue Gadwall::InputError => error
          status 422
          show_settings(errors: { error.field => error.message })
        end

        app.post("/settings/interface") do
          name = input.text("interface")
          unless name.empty? || name.match?(/\A[\w.-]{1,15}\z/)
            raise Gadwall::InputError.new(
                    field: "interface",
                    given: name,
                    expected: "the name of a CAN interface, such as can0"
                  )
          end
          workshop.read_by(name.empty? ? nil : name, by: person)
          redirect "/settings?saved=1", 303
        rescue Gadwall::InputError => error
          status 422
          show_settings(errors: { error.field => error.message })
        end

        app.helpers do
          def show_settings(**more)
            show(Pages::SettingsPage.new(workshop.shop, Gadwall::Knowledge.catalogue, **more))
          end
        end
      end
    end
  end
end
