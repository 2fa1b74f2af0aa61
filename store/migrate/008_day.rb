# frozen_string_literal: true

# Where somebody put a step of the day, and when an awaited part arrives.
Sequel.migration do
  change do
    create_table :day_marks, strict: true do
      primary_key :id, type: :integer
      foreign_key :job_id, :jobs, type: :integer, null: false
      column :date, :text, null: false
      column :step, :text, null: false
      column :payload, :text, null: false
      column :at, :text, null: false
      column :by, :text, null: false, default: ""
      unique %i[job_id date step]
      constraint(:mark_is_json) { Sequel.lit("json_valid(payload)") }
    end
  end
end
