# frozen_string_literal: true

module Web
  module Routes
    # The first page of an empty workshop: what it is called, what it charges, in which units, and who leads it.
    module Start
      def self.registered(app)
        app.get("/start") { show(Pages::StartPage.new(workshop.card)) }

        app.post("/start") do
          form = Forms::StartForm.new(input)
          if form.errors.any?
            status 422
            next show(Pages::StartPage.new(workshop.card, errors: form.errors, typed: form.typed))
          end

          workshop.begin_with(card: form.card, shop: form.shop, units: form.units, by: form.lead)
          remember(form.lead)
          redirect "/", 303
        end
      end
    end
  end
end
