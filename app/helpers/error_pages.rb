# frozen_string_literal: true

module Web
  module Helpers
    # Which error is answered with which status: the one place.
    module ErrorPages
      def self.registered(app)
        app.error(Store::NotFound) { |error| problem(404, "Not found", error.message) }
        app.error(Gadwall::InputError) { |error| problem(422, "Invalid entry", error.message) }
        app.error(Gadwall::Job::AssessmentError) { |error| show_trouble(error) }
        app.error(Store::Conflict) { |error| problem(409, "Another user saved first", error.message) }
        app.error(Store::OtherForm) { |error| resume(error.message, 409, fresh: true) }
        app.error(Store::Unusable) { |error| problem(507, "Not saved", error.message) }
        app.error(BadInput, Sinatra::BadRequest) do |error|
          problem(400, "Cannot be read", "#{error.message} Nothing was saved. Go back and enter it again.")
        end
        app.error(Sequel::DatabaseError) do |error|
          unwritten = Store.unwritten(error)
          next problem(507, "Not saved", "#{unwritten.message} Nothing was saved.") if unwritten

          broken(error, "The database did not take it. Nothing was saved.")
        end
        app.error { |error| broken(error, "Nothing was saved. Go back and try again.") }
        app.not_found { missing }
        app.helpers(Answers)
      end

      # What the handlers above share.
      module Answers
        # A job that cannot be assessed shows its log, where the entry that does not fit can be withdrawn.
        def show_trouble(error)
          status(request.get? ? 200 : 422)
          show(Pages::TroublePage.new(dossier, error))
        end

        # A defect of ours: told in the log with the request's id, which the page names.
        def broken(error, text)
          place = Array(error.backtrace).first(12).join("\n  ")
          env["gadwall.logger"]&.error("[#{env["gadwall.request_id"]}] #{error.class}: #{error.message}\n  #{place}")
          problem(500, "Server error, nothing saved", "#{text} The server's log has the details under this number.")
        end

        # No such page; or the page is there, and takes another method.
        def missing
          methods = App.routes.select { |_, routes| routes.any? { |pattern, *| pattern.match(request.path_info) } }.keys
          return problem(404, "No such page", "The job list shows every job.") if methods.empty?

          headers "Allow" => methods.join(", ")
          problem(
            405,
            "Not possible here",
            "This address takes #{methods.join(" and ")} only. Go back and use the page's form."
          )
        end
      end
    end
  end
end
