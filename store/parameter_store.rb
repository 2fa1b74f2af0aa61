# frozen_string_literal: true

require "json"

module Store
  # Parameter sets that were kept of a vehicle, in whichever job: nothing is ever overwritten.
  class ParameterStore
    def initialize(database)
      @database = database
      @jobs = JobStore.new(database)
    end

    # Sets kept in other jobs of this vehicle, oldest first: [[job number, Gadwall::Job::Entries::Parameters], ...].
    # record: Gadwall::Job::Record.
    def of_vehicle(record)
      @jobs.of_vehicle(record).reverse.flat_map { |job| of_job(job).map { |entry| [job.number, entry] } }
    end

    private

    def of_job(job)
      @database[:entries]
        .where(job_id: job.id, kind: Gadwall::Job::Entries::Parameters::KIND)
        .order(:seq)
        .map do |row|
          Gadwall::Job::Entries.stored(
            JSON.parse(row[:payload]).merge(
              "kind" => row[:kind],
              "seq" => row[:seq],
              "at" => row[:at],
              "by" => row[:by]
            )
          )
        end
        .grep(Gadwall::Job::Entries::Parameters)
    end
  end
end
