# frozen_string_literal: true

# How many minutes the diagnosis of a job still takes, so that the day can be planned without assessing it.
Sequel.migration { change { alter_table(:job_summaries) { add_column :minutes, :integer } } }
