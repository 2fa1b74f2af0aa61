# frozen_string_literal: true

# What stands over every page of a job beside its stage: may it be decided on, and why it must not be driven.
Sequel.migration do
  change do
    alter_table(:job_summaries) do
      add_column :decidable, :integer
      add_column :off_road, :text
    end
  end
end
