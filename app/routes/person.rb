# frozen_string_literal: true

module Web
  module Routes
    # The name that this browser's entries carry: asked once, changed with one touch.
    module Person
      KEPT = 5

      def self.registered(app)
        app.get("/person") { show(Pages::PersonPage.new(own_path(input.text("back")))) }

        app.post("/person") do
          name = Gadwall::Signature.trimmed(input.text("name")).gsub(/\p{Space}+/, " ")
          if name.length <= 60 && Gadwall::Signature.of(name)
            remember(name)
            redirect own_path(input.text("back")), 303
          end
          status 422
          sentence =
            name.length > 60 ? "#{name.length} letters; at most 60. Shorten it." : "Enter your name, in letters."
          page =
            Pages::PersonPage.new(
              own_path(input.text("back")),
              errors: {
                "name" => sentence
              },
              typed: {
                "name" => name
              }
            )
          show(page)
        end

        app.helpers do
          # Names that were used on this browser, the present one first.
          def people
            Array(session[:people])
          end

          def remember(name)
            session[:person] = name
            session[:people] = ([name] + people).uniq.first(KEPT)
          end

          # A path of ours; the job list for anything else.
          def own_path(path)
            path.match?(%r{\A/(?!/)[\w/.?=&%-]*\z}) && path != "/person" ? path : "/"
          end
        end
      end
    end
  end
end
