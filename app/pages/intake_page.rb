# frozen_string_literal: true

module Web
  module Pages
    # Checking a vehicle in.
    class IntakePage < Page
      # A question with its answers: name of the field, label, value, {id => text}.
      Choice = Struct.new(:name, :label, :value, :choices, keyword_init: true)

      attr_reader :form

      # form: Forms::IntakeForm; templates: Array of Store::TemplateStore::Template.
      def initialize(form, templates: [])
        super(nil, errors: form.errors, typed: form.values)
        @form = form
        @templates = templates
      end

      def title
        "Check in a vehicle"
      end

      # [[id, words, ticked], ...] of what keeps a vehicle off the road.
      def triage
        words = Gadwall::Decision::Triage::WORDS
        Gadwall::Decision::Triage::ASKED.map { |id| [id, words.fetch(id), form.triage.include?(id)] }
      end

      def lamps
        LampButtons.new(lit: form.lamps.lit, time: form.lamps.time, others_out: form.lamps.others_out?)
      end

      def symptom_groups
        SymptomGroups.all(form.symptoms)
      end

      # A vehicle that the workshop knows, or nil where it knows none.
      def like
        return if @templates.empty?

        known = @templates.to_h { |template| [template.id.to_s, template.name] }
        Choice.new(
          name: "like",
          label: "Wired like",
          value: typed["like"],
          choices: { "" => "As answered below" }.merge(known)
        )
      end

      # What is asked at once; the rest can wait for the vehicle sheet.
      def questions
        sensors = Forms::IntakeForm::SENSORS
        first = Gadwall::Knowledge.catalogue.questions.values.select { |question| question["first"] }
        [
          Choice.new(name: "front", label: "Front sensors", value: typed["front"], choices: sensors),
          Choice.new(name: "rear", label: "Rear sensors", value: typed["rear"], choices: sensors),
          *first.map do |row|
            Choice.new(name: row["id"], label: row["text"], value: typed[row["id"]], choices: row["answers"])
          end
        ]
      end
    end
  end
end
