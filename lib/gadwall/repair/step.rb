# frozen_string_literal: true

module Gadwall
  module Repair
    # One step of a plan, as it stands in the plan that is signed. Frozen.
    #
    # phase: of Rule::PHASES; does: words of the vocabulary; hold: to be signed before the next opens; people: how many
    # it takes, nil for one; wait_minutes: of its timer, or nil; after: ids of steps that it follows; asks: [{"id",
    # "label", "unit", "low", "high", "of", ...}], figures to be entered; names: [{"id", "label"}], texts to be entered;
    # ticks: [{"id", "label"}], to be ticked; compare: [{"id", "label", "needed"}], lines of a match card, old against
    # new; conditions: texts that must be true first; cautions: [{"id", "text"}]; because: words that asked for it;
    # protects: it keeps somebody from harm, is never left out; set_up: its run is recorded with its tool; school: the
    # way chosen among several that are taught, or nil; reach: where its place usually is, or nil; match,
    # parameters: it has a card of its own.
    Step =
      Struct.new(
        :id,
        :phase,
        :title,
        :text,
        :why,
        :reach,
        :does,
        :hold,
        :people,
        :wait_minutes,
        :after,
        :asks,
        :names,
        :ticks,
        :compare,
        :conditions,
        :cautions,
        :because,
        :protects,
        :set_up,
        :school,
        :match,
        :parameters,
        :source,
        keyword_init: true
      ) do
        # rule: Rule; words: WordList of the plan; catalogue: for the cautions; sheet: Vehicle::Sheet that it is said
        # of; work: Work that it is for, or nil; because: words that this work touches, or nil.
        def self.of(rule, words, catalogue, sheet:, work: nil, because: nil)
          row = rule.record
          says = Wording.new(catalogue, sheet, words)
          new(
            **row.slice("people", "wait_minutes", "school", "source").transform_keys(&:to_sym),
            **%w[text why].to_h { |name| [name.to_sym, says.text(row[name])] }.compact,
            **%w[ticks compare].to_h { |name| [name.to_sym, says.lines(row[name])] },
            names: row["names"] || [],
            conditions: (row["conditions"] || []).map { |each| says.text(each) },
            id: id_of(rule, work),
            phase: rule.phase,
            title: says.text(work ? "#{row["title"]}: #{work.title}" : row["title"]),
            does: rule.done(words, work),
            hold: row["hold"],
            reach: work&.reach,
            after: [],
            asks: says.lines(row["asks"]).map { |ask| { "source" => row["source"] }.merge(ask) },
            cautions: (row["cautions"] || []).map { |id| { "id" => id, "text" => catalogue.cautions.dig(id, "text") } },
            because: because || rule.because(words),
            protects: row["protects"] || false,
            set_up: row["set_up"] || false,
            match: row["match"] || false,
            parameters: row["parameters"] || false
          ).freeze
        end

        # What the step of a rule is called; work: Work that it is for, or nil.
        def self.id_of(rule, work)
          work ? "#{rule.id}-#{work.circuit}-#{work.place}" : rule.id
        end

        # A step of the first rules (data/archive/steps_1.yml). words: those that hold for the repair.
        def self.first(row, words, catalogue)
          from_h(
            row.slice("id", "title", "text", "hold", "wait_minutes", "asks").merge(
              "caution" => row["caution"] && catalogue.cautions.dig(row["caution"], "text"),
              "because" => ((row["when"] || []) + (row["any"] || [])) & words
            )
          )
        end

        # hash: as `to_entry` wrote it, String keys; plans of before rules "3" asked for one figure and had one caution.
        def self.from_h(hash)
          asks = hash["asks"]
          asks = [asks.merge("id" => "value")] if asks.is_a?(Hash)
          cautions = hash["cautions"] || [hash["caution"]].compact.map { |text| { "id" => nil, "text" => text } }
          lists = %w[does after names ticks compare conditions because].to_h { |name| [name.to_sym, hash[name] || []] }
          new(
            **hash.slice(*members.map(&:to_s)).transform_keys(&:to_sym),
            **lists,
            asks: asks || [],
            cautions: cautions
          ).freeze
        end

        # For the log: String keys, what is nil, false or empty left out.
        def to_entry
          to_h
            .reject { |_, value| value.nil? || value == false || value == [] }
            .transform_keys(&:to_s)
            .merge("hold" => hold)
        end

        # Is it of the set-up chain?
        def set_up?
          set_up == true
        end

        # Id of the rule that made it.
        def rule
          id.split("-").first
        end

        # All that must be ticked, its conditions with it: [[id, label], ...].
        def to_tick
          ticks.map { |each| each.values_at("id", "label") } + conditions.map { |text| [text, text] }
        end

        # What is entered, judged. values: {id => text}; ticked: ids. Returns {id => text} to be kept. Raises InputError
        # for the first that does not hold.
        def entered(values, ticked: [])
          Figures.new(self).entered(values, ticked)
        end
      end
  end
end
