# frozen_string_literal: true

require "json"
require "zlib"

module Store
  # What captures of a job told, and their samples.
  class CaptureStore
    # analysis: Hash as `bin/gadwall capture --view` prints it; circuit: id or nil.
    Kept = Struct.new(:id, :name, :circuit, :analysis, :at, keyword_init: true)

    def initialize(database)
      @database = database
      @rows = database[:captures]
      @files = database[:capture_files]
    end

    # Newest first.
    def for_job(job)
      @rows.where(job_id: job.id).reverse(:id).map { |row| kept(row) }
    end

    # Raises NotFound.
    def find(job, id)
      kept(row(job, id))
    end

    # at: ISO 8601 text; token: of the form, so that a repeated post keeps nothing twice; trace: bytes for the viewer or nil;
    # source: the file itself, where it may be read anew, or nil. Returns the id.
    def keep(job, name:, circuit:, analysis:, at:, token: nil, trace: nil, source: nil)
      before = token && @rows.first(form_token: token)
      return before[:id] if before

      @database.transaction do
        id = @rows.insert(job_id: job.id, name: name.strip[0, 200].then do |text|
 text.empty? ? "capture" : text end, circuit: circuit, analysis: JSON.generate(analysis), at: at, form_token: token)
        if trace
          @files.insert(capture_id: id, trace: Sequel.blob(trace), 
source: source && Sequel.blob(Zlib.deflate(source)))
        end
        id
      end
    end

    # The same log, read with other columns. Raises NotFound.
    def revise(job, id, analysis:, trace:)
      capture = row(job, id)[:id]
      @database.transaction do
        @rows.where(id: capture).update(analysis: JSON.generate(analysis))
        @files.where(capture_id: capture).update(trace: Sequel.blob(trace))
      end
    end

    # Bytes for the viewer, or nil where none were kept. Raises NotFound.
    def trace(job, id)
      @files.where(capture_id: row(job, id)[:id]).get(:trace)
    end

    # The file as it was handed in, or nil. Raises NotFound.
    def source(job, id)
      packed = @files.where(capture_id: row(job, id)[:id]).get(:source)
      packed && Zlib.inflate(packed)
    end

    private

    def row(job, id)
      @rows.first(job_id: job.id, 
id: id.to_s.match?(/\A\d{1,15}\z/) ? id.to_i : nil) or raise NotFound.new(id, kind: "capture")
    end

    def kept(row)
      Kept.new(id: row[:id], name: row[:name], circuit: row[:circuit], analysis: JSON.parse(row[:analysis]).freeze, 
at: row[:at]).freeze
    end
  end
end
