# frozen_string_literal: true

require "json"

module Store
  # Jobs, by number.
  class JobStore
    # vehicle: Hash of the sheet; the rest text. Frozen.
    Job = Struct.new(:id, :number, :vehicle, :customer, :complaint, :taken_in_at, keyword_init: true)

    def initialize(database)
      @database = database
    end

    # Newest first.
    def all
      jobs.reverse(:id).map { |row| job(row) }
    end

    # Raises NotFound.
    def find(number)
      row = jobs.first(number: number.to_s) or raise NotFound, number
      job(row)
    end

    # Takes a vehicle in. at: ISO 8601 text; token: of the form, so that a repeated post makes no second job.
    # Returns the Job. Raises Gadwall::InputError where the database refuses a field.
    def create(vehicle:, customer:, complaint:, at:, token: nil)
      @database.transaction(mode: :immediate) do
        known = token && jobs.first(form_token: token)
        return job(known) if known

        id = jobs.insert(number: next_number, vehicle: JSON.generate(vehicle), customer: customer, 
complaint: complaint, taken_in_at: at, form_token: token)
        job(jobs.first(id: id))
      end
    rescue Sequel::CheckConstraintViolation => error
      raise refused(error, customer, complaint)
    end

    # A sheet refined or corrected. vehicle: Hash. Returns the Job as it is now.
    def refine(job, vehicle)
      jobs.where(id: job.id).update(vehicle: JSON.generate(vehicle))
      find(job.number)
    end

    private

    REFUSALS = { "customer_is_named" => ["customer", "a name of 1 to 200 letters"], 
"complaint_is_told" => ["complaint", "what the customer says, up to 4000 letters"] }.freeze

    def refused(error, customer, complaint)
      name = REFUSALS.keys.find { |key| error.message.include?(key) }
      field, expected = REFUSALS.fetch(name, ["vehicle", "a sheet that can be stored"])
      Gadwall::InputError.new(field: field, given: field == "customer" ? customer : complaint, expected: expected)
    end

    def jobs
      @database[:jobs]
    end

    def next_number
      format("J%03d", (jobs.max(:id) || 0) + 101)
    end

    def job(row)
      Job.new(**row.slice(:id, :number, :customer, :complaint, :taken_in_at), 
vehicle: JSON.parse(row[:vehicle]).freeze).freeze
    end
  end
end
