# frozen_string_literal: true

# What the workshop charges, kinds of entries that came with plans composed from what is touched, and indexes for what
# is looked up across jobs.
Sequel.migration do
  up do
    known = from(:entry_kinds).select_map(:kind)
    from(:entry_kinds).multi_insert((%w[lamps presence parameters] - known).map { |kind| { kind: kind } })

    create_table :settings, strict: true do
      column :key, :text, primary_key: true
      column :value, :text, null: false
      column :at, :text, null: false
      column :by, :text, null: false, default: ""
      constraint(:value_is_json) { Sequel.lit("json_valid(value)") }
    end
    alter_table(:job_summaries) { add_column :watch_until, :text }
    alter_table(:job_summaries) { add_column :watch_from, :text }
    alter_table(:closed_cases) { add_column :revoked_at, :text }
    run "CREATE INDEX summaries_on_watch ON job_summaries (watch_until) WHERE watch_until IS NOT NULL"
    add_index :entries, %i[kind job_id], name: :entries_by_kind
    run "CREATE INDEX jobs_by_plate ON jobs (json_extract(vehicle, '$.plate'))"
    run "CREATE INDEX jobs_by_vin ON jobs (json_extract(vehicle, '$.vin'))"
    run "CREATE INDEX jobs_by_name ON jobs (json_extract(vehicle, '$.name'))"
  end

  down do
    run "DROP INDEX jobs_by_name"
    run "DROP INDEX jobs_by_vin"
    run "DROP INDEX jobs_by_plate"
    run "DROP INDEX summaries_on_watch"
    alter_table(:closed_cases) { drop_column :revoked_at }
    alter_table(:job_summaries) { drop_column :watch_from }
    alter_table(:job_summaries) { drop_column :watch_until }
    drop_index :entries, %i[kind job_id], name: :entries_by_kind
    drop_table :settings
  end
end
