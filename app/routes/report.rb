# frozen_string_literal: true

module Web
  module Routes
    # What leaves the house: the report and the case file.
    module Report
      def self.registered(app)
        app.get("/jobs/:number/report") do
          erb :"report/show", locals: { file: desk.file(params["number"]), now: desk.now }
        end

        app.get("/jobs/:number/case.json") do
          file = desk.file(params["number"])
          content_type :json
          attachment "#{file.job.number}.json"
          Gadwall::CaseFile.dump(
            vehicle: file.job.vehicle,
            entries: file.log.entries,
            extra: {
              "number" => file.job.number,
              "customer" => file.job.customer,
              "complaint" => file.job.complaint,
              "taken_in_at" => file.job.taken_in_at
            }
          )
        end
      end
    end
  end
end
