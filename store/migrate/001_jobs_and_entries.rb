# frozen_string_literal: true

Sequel.migration do
  up do
    create_table :jobs, strict: true do
      primary_key :id, type: :integer
      column :number, :text, null: false, unique: true
      column :vehicle, :text, null: false
      column :customer, :text, null: false
      column :complaint, :text, null: false
      column :taken_in_at, :text, null: false
      column :form_token, :text, unique: true
      constraint(:vehicle_is_json) { Sequel.lit("json_valid(vehicle)") }
      constraint(:customer_is_named) { Sequel.lit("length(trim(customer)) BETWEEN 1 AND 200") }
      constraint(:complaint_is_told) { Sequel.lit("length(trim(complaint)) BETWEEN 1 AND 4000") }
    end

    create_table :entries, strict: true do
      primary_key :id, type: :integer
      foreign_key :job_id, :jobs, type: :integer, null: false
      column :seq, :integer, null: false
      column :kind, :text, null: false
      column :payload, :text, null: false
      column :at, :text, null: false
      column :by, :text, null: false, default: ""
      column :form_token, :text, unique: true
      unique %i[job_id seq]
      constraint(:seq_counts_from_one) { Sequel.lit("seq >= 1") }
      constraint(:payload_is_json) { Sequel.lit("json_valid(payload)") }
      constraint(:kind_is_known) do
        Sequel.lit(
          "kind IN ('symptoms', 'scan', 'scan_skipped', 'reading', 'finding', 'access', 'withdraw', 'decision', " \
            "'step', 'note', 'handover')"
        )
      end
      constraint(:withdrawal_has_a_reason) do
        Sequel.lit(
          "kind <> 'withdraw' OR (json_extract(payload, '$.entry') IS NOT NULL AND length(trim(json_extract(payload, " \
            "'$.reason'))) > 0)"
        )
      end
    end

    # The log only grows: a wrong entry is withdrawn by a later one.
    run "CREATE TRIGGER entries_are_not_changed BEFORE UPDATE ON entries BEGIN SELECT RAISE(ABORT, 'entries are " \
          "append-only'); END"
    run "CREATE TRIGGER entries_are_not_deleted BEFORE DELETE ON entries BEGIN SELECT RAISE(ABORT, 'entries are " \
          "append-only'); END"
  end

  down { drop_table :entries, :jobs }
end
