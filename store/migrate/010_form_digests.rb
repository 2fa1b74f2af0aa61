# frozen_string_literal: true

# What a form held when it was taken: sent again with other content it is not the same form. Forms of earlier versions
# have none.
Sequel.migration { change { alter_table(:form_tokens) { add_column :digest, :text } } }
