# frozen_string_literal: true

require "json"
require "zlib"

module Store
  # What captures of a job showed, and their samples.
  class CaptureStore
    # analysis: Hash as `bin/gadwall capture --view` prints it; circuit: id or nil; withdrawn, withdrawn_by: why and by
    # whom it was taken back, or nil.
    StoredCapture = Struct.new(:id, :name, :circuit, :analysis, :at, :withdrawn, :withdrawn_by, keyword_init: true)

    def initialize(database)
      @database = database
      @rows = database[:captures]
      @files = database[:capture_files]
    end

    # Those that count, newest first.
    def for_job(job)
      @rows.where(job_id: job.id, withdrawn_at: nil).reverse(:id).map { |row| stored_capture(row) }
    end

    # Those that were taken back, newest first.
    def withdrawn(job)
      @rows.where(job_id: job.id).exclude(withdrawn_at: nil).reverse(:id).map { |row| stored_capture(row) }
    end

    # Takes a capture back; it stays, with the reason. What is taken back already stays as it is. reason: text; by: who;
    # at: ISO 8601 text. Raises NotFound.
    def withdraw(job, id, reason:, by:, at:)
      known = row(job, id)[:id]
      row = { withdrawn: reason, withdrawn_by: by.to_s, withdrawn_at: at }
      @rows.where(id: known, withdrawn_at: nil).update(row)
    end

    # Raises NotFound.
    def find(job, id)
      stored_capture(row(job, id))
    end

    # at: ISO 8601 text; token: of the form, so that a repeated post stores nothing twice; waveform: bytes for the
    # viewer or nil; source: the file itself, where it may be read again, or nil. Returns the id. Raises Unusable when
    # the disk is full.
    def save(job, name:, circuit:, analysis:, at:, token: nil, waveform: nil, source: nil)
      @database.transaction(mode: :immediate) do
        before = token && @rows.first(form_token: token)
        next before[:id] if before

        id = insert(job, name, circuit, analysis, at, token)
        insert_file(id, waveform, source) if waveform
        id
      end
    rescue Sequel::DatabaseError => error
      raise unless error.message.match?(/full/i)

      raise Unusable, "The disk is full: the capture was not stored. Free some space, then hand it in again."
    end

    # The same log, read with other columns. Raises NotFound.
    def revise(job, id, analysis:, waveform:)
      capture = row(job, id)[:id]
      @database.transaction do
        @rows.where(id: capture).update(analysis: JSON.generate(analysis))
        @files.where(capture_id: capture).update(trace: Sequel.blob(waveform))
      end
    end

    # Bytes for the viewer, or nil where none were stored. Raises NotFound.
    def waveform(job, id)
      @files.where(capture_id: row(job, id)[:id]).get(:trace)
    end

    # The file as it was handed in, or nil. Raises NotFound.
    def source(job, id)
      packed = @files.where(capture_id: row(job, id)[:id]).get(:source)
      packed && Zlib.inflate(packed)
    end

    private

    def insert(job, name, circuit, analysis, at, token)
      title = name.strip[0, 200]
      @rows.insert(
        job_id: job.id,
        name: title.empty? ? "capture" : title,
        circuit: circuit,
        analysis: JSON.generate(analysis),
        at: at,
        form_token: token
      )
    end

    def insert_file(id, waveform, source)
      packed = source && Sequel.blob(Zlib.deflate(source))
      @files.insert(capture_id: id, trace: Sequel.blob(waveform), source: packed)
    end

    def row(job, id)
      number = id.to_s.match?(/\A\d{1,15}\z/) ? id.to_i : nil
      @rows.first(job_id: job.id, id: number) or raise NotFound.new(id, kind: "capture")
    end

    def stored_capture(row)
      StoredCapture.new(
        **row.slice(:id, :name, :circuit, :at, :withdrawn, :withdrawn_by),
        analysis: JSON.parse(row[:analysis]).freeze
      ).freeze
    end
  end
end
