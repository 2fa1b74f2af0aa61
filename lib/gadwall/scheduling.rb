# frozen_string_literal: true

module Gadwall
  # The day: which job next, who does it where, and what runs meanwhile. Minutes are counted from midnight of the day.
  # Lateness is made least first, then idle hands, then moves between jobs.
  module Scheduling
    # Somebody or something that a step needs. kind: "person", "place" or "tool"; skills: Array of texts; windows:
    # [[from, to], ...] in minutes when it is there.
    Resource =
      Struct.new(:id, :name, :kind, :skills, :windows, keyword_init: true) do
        # Has it all of these skills?
        def able?(wanted)
          (wanted - skills).empty?
        end
      end

    # One stretch of work or waiting. minutes: how long; needs: [[ids of resources that would do], ...], one list for
    # each thing that is needed; after: ids of steps; attended: does it take hands?; earliest: minutes from midnight;
    # fixed: Slot that it was given, or nil.
    Step = Struct.new(:id, :job, :title, :minutes, :needs, :after, :attended, :earliest, :fixed, keyword_init: true)

    # A vehicle. promised: minutes from midnight, or nil; steps: Array of Step.
    Job = Struct.new(:id, :name, :promised, :steps, keyword_init: true)

    # A step in the day. uses: ids of resources.
    Slot =
      Struct.new(:step, :from, :to, :uses, keyword_init: true) do
        # Id of the vehicle.
        def job
          step.job
        end
      end

    # What a day is made of. jobs: Array of Job; resources: Array of Resource; start: minutes, nothing begins before.
    Problem =
      Struct.new(:jobs, :resources, :start, keyword_init: true) do
        # All steps.
        def steps
          jobs.flat_map(&:steps)
        end

        # id: text. Returns a Resource or nil.
        def resource(id)
          resources.find { |each| each.id == id }
        end
      end
  end
end
