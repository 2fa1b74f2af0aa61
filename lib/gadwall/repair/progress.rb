# frozen_string_literal: true

require "time"

module Gadwall
  module Repair
    # How far a plan is: each of its steps with what was begun and signed. Steps that are done by an entry of their own
    # (the last scans, the proof drive) are not signed here; those after the last scan belong to the proof.
    class Progress
      # Phases that belong to the proof.
      PROOF = %w[scan drive hand_back].freeze
      # What is done by an entry of its own in those phases.
      ENTERED = %w[scan:all drive:proof].freeze

      # What was entered for a step. limits: in words, or nil; quantity: is the text a figure with its unit, no words?
      Entered =
        Struct.new(:label, :text, :limits, :quantity, keyword_init: true) do
          # The text and the limits in the units of a workshop; words stay as they were typed. units:
          # Quantity::Preferences.
          def shown(units)
            quantity ? [units.in_text(text), limits && units.in_text(limits)] : [text, limits]
          end
        end

      # A Step with its number and state: "open", "started", "done" or "not_needed". started_at: Time or nil; values:
      # {id => text kept}; ticks: ids; signed_by, signed_at: who and when, or nil; reachable: is it its turn, all holds
      # before it signed?
      Row =
        Struct.new(
          :step,
          :number,
          :state,
          :started_at,
          :values,
          :ticks,
          :reason,
          :signed_by,
          :signed_at,
          :reachable,
          keyword_init: true
        ) do
          # Id of the step.
          def id
            step.id
          end

          # Title of the step.
          def title
            step.title
          end

          # Signed, or not needed.
          def done?
            %w[done not_needed].include?(state)
          end

          # What was entered, beside what was asked: Array of Entered.
          def figures
            asked = step.asks.filter_map { |ask| entered_figure(ask) if values.key?(ask["id"]) }
            named = step.names.filter_map { |each| words(each["label"], values[each["id"]]) }
            matched =
              step.compare.filter_map do |line|
                words(line["label"], pair(line["id"]), values["#{line["id"]}.reason"]) if values["#{line["id"]}.old"]
              end
            way = step.school && words(step.school["question"], values[Figures::WAY])
            asked + named + matched + [way, words("Why it differs", values[Figures::REASON])].compact
          end

          # The figures in a line; "" for none. units: Quantity::Preferences, or nil for those of the record.
          def entered(units = nil)
            figures
              .map do |each|
                text = units ? each.shown(units).first : each.text
                figures.size == 1 ? text : "#{each.label} #{text}"
              end
              .join(", ")
          end

          # Does its timer run, or has it run out without being signed?
          def waiting?
            state == "started"
          end

          # When the wait is over: Time, or nil where none runs.
          def ready_at
            step.wait_minutes && started_at && (started_at + (step.wait_minutes * 60))
          end

          # Seconds still to wait at a moment; 0 where no wait runs. now: Time.
          def seconds_left(now)
            ready_at ? [(ready_at - now).ceil, 0].max : 0
          end

          private

          def pair(id)
            values.values_at("#{id}.old", "#{id}.new").uniq.join(" → ")
          end

          def entered_figure(ask)
            text = [values[ask["id"]], ask["unit"]].compact.reject(&:empty?).join(" ")
            Entered.new(label: ask["label"], text: text, limits: limits(ask), quantity: true)
          end

          def words(label, text, limits = nil)
            text && Entered.new(label: label, text: text, limits: limits, quantity: false)
          end

          def limits(ask)
            Figures.limits(ask).delete_prefix("a number from ")
          end
        end

      attr_reader :rows

      # Steps of the repair, and those signed while it is proven and handed back.
      attr_reader :repair, :proof

      # How the vehicle stands: Standing, or nil for plans of the first rules.
      attr_reader :standing

      # steps: Array of Step; signed: {step id => Array of Job::Entries::Step that count for this plan}; rules:
      # StateRules, or nil where the steps say nothing of states; touches, left: as of Standing.
      def initialize(steps, signed, rules: nil, touches: [], left: [])
        @signed = signed
        @standing = rules && standing_of(steps, rules, touches, left)
        @rows = build(steps.reject { |step| proven?(step) && step.does.intersect?(ENTERED) }).freeze
        @proof, @repair = rows.partition { |row| proven?(row.step) }.map(&:freeze)
        freeze
      end

      # Is every step of the repair done, or not needed?
      def done?
        repair.all?(&:done?)
      end

      # How many steps of the repair are.
      def done_count
        repair.count(&:done?)
      end

      # The first step not done whose turn it is, or nil.
      def next_row
        rows.find { |row| !row.done? && row.reachable }
      end

      # Rows whose timer runs.
      def waits
        rows.select { |row| row.waiting? && row.ready_at }
      end

      # id: of a step. Raises UnknownNameError.
      def row(id)
        rows.find { |row| row.id == id } or raise UnknownNameError.new(field: "step", given: id, known: rows.map(&:id))
      end

      private

      def standing_of(steps, rules, touches, left)
        closed = steps.to_h { |step| [step.id, last_of(step)] }.compact
        Standing.new(
          rules,
          steps,
          touches: touches,
          done: closed.transform_values(&:state),
          ticked: closed.transform_values(&:ticks),
          left: left
        )
      end

      # The entry that closed a step, or nil.
      def last_of(step)
        @signed.fetch(step.id, []).find { |entry| entry.state != "started" }
      end

      # The step, with what it asks for again.
      def asking(step)
        asked = standing ? standing.asked.fetch(step.id, []) : []
        asked.empty? ? step : step.dup.tap { |copy| copy.conditions = step.conditions + asked }.freeze
      end

      # Erasing codes is the last step of the repair.
      def proven?(step)
        PROOF.include?(step.phase) && !step.does.include?("clear:codes")
      end

      def build(steps)
        reachable = true
        steps.each_with_index.map do |step, i|
          row = row_of(step, i + 1, reachable)
          reachable &&= row.done? || !step.hold
          row
        end
      end

      def row_of(step, number, reachable)
        last = last_of(step)
        started = @signed.fetch(step.id, []).find { |entry| entry.state == "started" }
        Row.new(
          step: asking(step),
          number: number,
          state: last&.state || started&.state || "open",
          started_at: started&.at && Time.iso8601(started.at),
          values: last&.values || {},
          ticks: last&.ticks || [],
          reason: last&.reason,
          signed_by: last&.by,
          signed_at: last&.at,
          reachable: reachable
        ).freeze
      end
    end
  end
end
