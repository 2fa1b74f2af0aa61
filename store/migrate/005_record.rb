# frozen_string_literal: true

# The record as it is kept from here on: kinds of entries in a table of their own (those of its day; later ones are
# added as a database is opened, Store.know_kinds), versions, one token for each form that was taken, summaries for the
# lists, closed cases with their dates, promises, and analyses that outlive a restart. What stood in the log stays as it
# was.
Sequel.migration do
  up do
    create_table :entry_kinds, strict: true do
      column :kind, :text, primary_key: true
    end
    known = %w[
      symptoms
      promise
      sheet
      scan
      scan_skipped
      reading
      finding
      access
      withdraw
      decision
      plan
      reopen
      step
      set_up
      drive
      handover
      note
      comeback
      watch_result
    ]
    kinds = known | from(:entries).distinct.select_map(:kind)
    from(:entry_kinds).multi_insert(kinds.map { |kind| { kind: kind } })

    create_table :entries_by_version, strict: true do
      primary_key :id, type: :integer
      foreign_key :job_id, :jobs, type: :integer, null: false
      column :seq, :integer, null: false
      foreign_key :kind, :entry_kinds, type: :text, key: :kind, null: false
      column :version, :integer, null: false, default: 1
      column :payload, :text, null: false
      column :at, :text, null: false
      column :by, :text, null: false, default: ""
      unique %i[job_id seq]
      constraint(:seq_counts_from_one) { Sequel.lit("seq >= 1") }
      constraint(:version_counts_from_one) { Sequel.lit("version >= 1") }
      constraint(:payload_is_json) { Sequel.lit("json_valid(payload)") }
      constraint(:withdrawal_has_a_reason) do
        Sequel.lit(
          "kind <> 'withdraw' OR (json_extract(payload, '$.entry') IS NOT NULL " \
            "AND length(trim(json_extract(payload, '$.reason'))) > 0)"
        )
      end
    end
    columns = %i[id job_id seq kind payload at by]
    from(:entries_by_version).insert(columns, from(:entries).select(*columns))

    create_table :form_tokens, strict: true do
      column :token, :text, primary_key: true
      foreign_key :job_id, :jobs, type: :integer
      column :landing, :text, null: false
      column :at, :text, null: false
      constraint(:token_is_named) { Sequel.lit("length(token) BETWEEN 1 AND 100") }
    end
    entry_token = Sequel[:entries][:form_token]
    landing = Sequel.join(["/jobs/", Sequel[:jobs][:number]])
    from(:form_tokens).insert(
      %i[token job_id landing at],
      from(:entries)
        .join(:jobs, id: Sequel[:entries][:job_id])
        .exclude(entry_token => nil)
        .select(entry_token, Sequel[:entries][:job_id], landing, Sequel[:entries][:at])
    )
    from(:form_tokens).insert(
      %i[token job_id landing at],
      from(:jobs).exclude(form_token: nil).select(:form_token, :id, landing, :taken_in_at)
    )

    drop_table :entries
    rename_table :entries_by_version, :entries
    run "CREATE TRIGGER entries_are_not_changed BEFORE UPDATE ON entries " \
          "BEGIN SELECT RAISE(ABORT, 'entries are append-only'); END"
    run "CREATE TRIGGER entries_are_not_deleted BEFORE DELETE ON entries " \
          "BEGIN SELECT RAISE(ABORT, 'entries are append-only'); END"

    add_column :jobs, :promised_at, :text

    create_table :job_summaries, strict: true do
      foreign_key :job_id, :jobs, type: :integer, primary_key: true
      column :stage, :text, null: false
      column :closed, :integer, null: false
      column :sentence, :text, null: false
      column :next_action, :text, null: false
      column :suspect, :text, null: false
      column :since, :text, null: false
      column :promised_at, :text
      column :waits, :text, null: false
      column :open_points, :text, null: false
      column :codes, :text, null: false
      column :places, :text, null: false
      column :change, :text
      column :trouble, :text
      column :search, :text, null: false
      column :seq, :integer, null: false
      column :engine, :text, null: false
      index %i[closed since]
      constraint(:closed_is_yes_or_no) { Sequel.lit("closed IN (0, 1)") }
    end

    create_table :closed_cases, strict: true do
      primary_key :id, type: :integer
      foreign_key :job_id, :jobs, type: :integer, null: false
      column :template, :text, null: false
      column :fault, :text, null: false
      column :closed_at, :text, null: false
      index %i[template closed_at fault]
    end
    from(:entries)
      .where(kind: "handover")
      .each do |row|
        (JSON.parse(row[:payload])["causes"] || []).each do |cause|
          from(:closed_cases).insert(
            job_id: row[:job_id],
            template: cause["template"],
            fault: cause["fault"],
            closed_at: row[:at]
          )
        end
      end

    create_table :analyses, strict: true do
      column :id, :text, primary_key: true
      foreign_key :job_id, :jobs, type: :integer, null: false
      column :name, :text, null: false
      column :circuit, :text
      column :options, :text, null: false
      column :state, :text, null: false
      column :progress, :real, null: false, default: 0.0
      column :message, :text
      column :capture_id, :integer
      column :at, :text, null: false
      constraint(:options_are_json) { Sequel.lit("json_valid(options)") }
      constraint(:state_is_known) { Sequel.lit("state IN ('waiting', 'running', 'done', 'failed', 'cancelled')") }
    end
  end

  down do
    raise Sequel::Error, "The record is not taken back to its earlier form: that would lose versions and summaries."
  end
end
