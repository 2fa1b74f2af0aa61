# frozen_string_literal: true

# The samples of a capture, for its viewer; the log itself where its columns may have to be read anew; and what the shop
# takes columns of live data for.
Sequel.migration do
  change do
    create_table :capture_files, strict: true do
      foreign_key :capture_id, :captures, type: :integer, primary_key: true
      column :trace, :blob, null: false
      column :source, :blob
    end

    create_table :live_columns, strict: true do
      column :name, :text, primary_key: true
      column :parameter, :text, null: false
      column :at, :text, null: false
      constraint(:live_column_is_named) { Sequel.lit("length(trim(name)) BETWEEN 1 AND 200") }
    end
  end
end
