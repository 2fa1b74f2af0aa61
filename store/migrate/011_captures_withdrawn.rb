# frozen_string_literal: true

# A capture is taken out of a job like a reading: with a reason, by whom and when, and it stays.
Sequel.migration do
  change do
    alter_table(:captures) do
      add_column :withdrawn, :text
      add_column :withdrawn_by, :text
      add_column :withdrawn_at, :text
    end
  end
end
