# frozen_string_literal: true

# What the shop remembers beside its jobs: how it reads codes, and vehicles it knows.
Sequel.migration do
  change do
    create_table :code_words, strict: true do
      column :key, :text, primary_key: true
      column :circuit, :text
      column :claim, :text
      column :at, :text, null: false
      constraint(:code_word_is_named) { Sequel.lit("length(trim(key)) BETWEEN 1 AND 500") }
      constraint(:code_word_says_something) { Sequel.lit("circuit IS NOT NULL OR claim IS NOT NULL") }
    end

    create_table :vehicle_templates, strict: true do
      primary_key :id, type: :integer
      column :name, :text, null: false, unique: true
      column :vehicle, :text, null: false
      column :at, :text, null: false
      constraint(:template_is_named) { Sequel.lit("length(trim(name)) BETWEEN 1 AND 120") }
      constraint(:template_is_json) { Sequel.lit("json_valid(vehicle)") }
    end
  end
end
