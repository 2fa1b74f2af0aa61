# frozen_string_literal: true

module Web
  module Pages
    # What every page has: its view, its title, the errors of what was refused, what was typed, and the job where it has
    # one.
    class Page
      # A stop of the stage bar. reached: can it be opened; now: is the job here; here: is it the page shown.
      Stop = Struct.new(:id, :name, :path, :reached, :now, :here, keyword_init: true)

      attr_reader :dossier, :errors, :typed

      # dossier: Gadwall::Job::Dossier or nil; errors: {field => sentence}; typed: {field => text} of what was refused.
      def initialize(dossier = nil, errors: {}, typed: {})
        @dossier = dossier
        @errors = errors
        @typed = typed
      end

      # Name of the view, by the name of the page: CodesPage is "codes".
      def view
        self.class.name.split("::").last.delete_suffix("Page").gsub(/(?<!\A)(?=[A-Z])/, "_").downcase.to_sym
      end

      def title
        job? ? "#{number} · #{vehicle_name}" : nil
      end

      def job?
        !dossier.nil?
      end

      def number
        dossier.number
      end

      def vehicle_name
        dossier.record.vehicle_name
      end

      def customer
        dossier.record.customer
      end

      def plate
        dossier.record.plate
      end

      # The address of the job.
      def base
        "/jobs/#{number}"
      end

      # seq of the last entry that this page shows; nil without a job.
      def seen
        dossier&.last_seq
      end

      # Does anything of this job come from a simulated vehicle?
      def simulated?
        job? && (number.start_with?(App::PRACTICE) || dossier.log.simulated?)
      end

      # Why the vehicle must not be driven, in words; nil where it may, or once its cause is repaired.
      def do_not_drive
        return unless job?

        return if !dossier.stays_off_road? && (dossier.handed_over? || dossier.plan&.done?)

        # On an exercise only what was told: what is suspected by now is for the learner to find.
        said = number.start_with?(App::PRACTICE) ? dossier.told_off_road : dossier.head.off_road
        said.empty? ? nil : Gadwall::Decision::Triage.words(said).join("; ")
      end

      # In what state the vehicle is, for whoever comes to it now: Array of sentences; [] where nothing is open.
      def stands
        job? ? dossier.standing.said.map { |text| text[0].upcase + text[1..] } : []
      end

      # Where an exercise stands, without a word of advice.
      def exercise_sentence
        count = dossier.log.valid_entries.count { |entry| entry.respond_to?(:test) }
        "Exercise: #{["nothing", "1 test"].fetch(count, "#{count} tests")} entered yet. " \
          "Choose a test, or measure on the bench."
      end

      # Which stage of the job this page is; nil for pages beside it.
      def stage
        nil
      end

      def sentence
        dossier.head.sentence
      end

      def next_action
        dossier.head.next_action
      end

      # The stage bar: Array of Stop.
      def stops
        Gadwall::Job::Stage::ALL
          .drop(1)
          .map do |id|
            Stop.new(
              id: id,
              name: Gadwall::Job::Stage::NAMES.fetch(id),
              path: "#{base}/#{id}",
              reached: dossier.head.reached?(id),
              now: dossier.head.stage == id,
              here: stage == id
            )
          end
      end

      private

      def catalogue
        dossier.catalogue
      end
    end
  end
end
