# frozen_string_literal: true

# Vehicles that a job is connected to, what was done to them, act by act, and how exercises ended. An act is never
# changed: the same acts give the same stand again.
Sequel.migration do
  up do
    known = from(:entry_kinds).select_map(:kind)
    from(:entry_kinds).multi_insert((%w[pads] - known).map { |kind| { kind: kind } })

    create_table :stands, strict: true do
      primary_key :id, type: :integer
      foreign_key :job_id, :jobs, type: :integer, null: false, unique: true
      column :source, :text, null: false
      column :at, :text, null: false
      column :by, :text, null: false, default: ""
      constraint(:source_is_json) { Sequel.lit("json_valid(source)") }
    end

    create_table :stand_acts, strict: true do
      primary_key :id, type: :integer
      foreign_key :stand_id, :stands, type: :integer, null: false
      column :seq, :integer, null: false
      column :payload, :text, null: false
      column :at, :text, null: false
      column :by, :text, null: false, default: ""
      unique %i[stand_id seq]
      constraint(:act_is_json) { Sequel.lit("json_valid(payload)") }
    end

    create_table :practice_results, strict: true do
      primary_key :id, type: :integer
      foreign_key :job_id, :jobs, type: :integer, unique: true
      column :learner, :text, null: false
      column :exercise, :text, null: false
      column :level, :integer, null: false
      column :family, :text, null: false
      column :score, :integer, null: false
      column :minutes, :integer, null: false
      column :money, :integer, null: false
      column :ended, :text, null: false
      column :at, :text, null: false
      constraint(:score_within_limits) { Sequel.lit("score BETWEEN 0 AND 100") }
      constraint(:level_within_limits) { Sequel.lit("level BETWEEN 1 AND 4") }
    end

    run <<~SQL
      CREATE TRIGGER stand_acts_stay BEFORE UPDATE ON stand_acts
      BEGIN SELECT RAISE(ABORT, 'an act is never changed'); END
    SQL
    run <<~SQL
      CREATE TRIGGER stand_acts_are_kept BEFORE DELETE ON stand_acts
      BEGIN SELECT RAISE(ABORT, 'an act is never removed'); END
    SQL
  end

  down do
    drop_table :practice_results
    drop_table :stand_acts
    drop_table :stands
  end
end
