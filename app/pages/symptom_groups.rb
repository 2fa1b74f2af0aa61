# frozen_string_literal: true

module Web
  module Pages
    # What can be said of complaint, recent work and vehicle use, in groups to be ticked.
    module SymptomGroups
      NAMES = { "complaint" => "When it happens", "work" => "Recent work", "life" => "Vehicle use" }.freeze
      # open: shown unfolded; symptoms: [[id, text, ticked], ...].
      Group = Struct.new(:name, :open, :symptoms, keyword_init: true)

      # ticked: ids. Returns Array of Group.
      def self.all(ticked)
        Gadwall::Knowledge
          .catalogue
          .symptoms
          .values
          .group_by { |row| row["group"] }
          .map do |group, rows|
            symptoms = rows.map { |row| [row["id"], row["text"], ticked.include?(row["id"])] }
            open = group == "complaint" || symptoms.any?(&:last)
            Group.new(name: NAMES.fetch(group), open: open, symptoms: symptoms).freeze
          end
      end
    end
  end
end
