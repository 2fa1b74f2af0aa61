# frozen_string_literal: true

require "json"

module Store
  # What captures of a job told.
  class CaptureStore
    # analysis: Hash as `bin/gadwall capture` prints it, with "ring" where there is one; circuit: id or nil.
    Kept = Struct.new(:id, :name, :circuit, :analysis, :at, keyword_init: true)

    def initialize(database)
      @rows = database[:captures]
    end

    # Newest first.
    def for_job(job)
      @rows.where(job_id: job.id).reverse(:id).map { |row| kept(row) }
    end

    # Raises NotFound.
    def find(job, id)
      row = @rows.first(job_id: job.id, id: id.to_i) or raise NotFound.new(id, kind: "capture")
      kept(row)
    end

    # at: ISO 8601 text; token: of the form, so that a repeated post keeps nothing twice.
    def keep(job, name:, circuit:, analysis:, at:, token: nil)
      return if token && @rows.where(form_token: token).any?

      @rows.insert(job_id: job.id, name: name.strip[0, 200].then { |text| text.empty? ? "capture" : text }, circuit: circuit, analysis: JSON.generate(analysis), at: at, form_token: token)
    end

    private

    def kept(row)
      Kept.new(id: row[:id], name: row[:name], circuit: row[:circuit], analysis: JSON.parse(row[:analysis]).freeze, at: row[:at]).freeze
    end
  end
end
