# frozen_string_literal: true

# Captures of a job: what the analysis found, not the samples themselves.
Sequel.migration do
  change do
    create_table :captures, strict: true do
      primary_key :id, type: :integer
      foreign_key :job_id, :jobs, type: :integer, null: false
      column :name, :text, null: false
      column :circuit, :text
      column :analysis, :text, null: false
      column :at, :text, null: false
      column :form_token, :text, unique: true
      constraint(:capture_is_named) { Sequel.lit("length(trim(name)) BETWEEN 1 AND 200") }
      constraint(:analysis_is_json) { Sequel.lit("json_valid(analysis)") }
    end
  end
end
