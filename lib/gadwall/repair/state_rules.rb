# frozen_string_literal: true

module Gadwall
  module Repair
    # What steps do to the vehicle (data/repairs/states.yml) and what must be so when they do it
    # (data/repairs/conditions.yml), as they hold for one vehicle. A state is a departure from 'fit for the road'; facts
    # are states at places: [state id, place or nil]. Actions with preconditions and effects over facts, as STRIPS has
    # them (handbook: Fikes and Nilsson 1971, from memory).
    class StateRules
      # One record of states.yml. places: does it hold at places of its own?; held: Arrays of ids of states that must
      # hold as long as it does; unsaid_while: ids of states that say it already.
      State = Struct.new(:id, :says, :owes, :begins, :ends, :touched, :places, :held, :unsaid_while, keyword_init: true)
      # One record of conditions.yml.
      Condition = Struct.new(:id, :word, :during, :after, :before, :without, keyword_init: true)
      # Places that stand for others.
      COVERS = {
        "front_axle" => %w[front_left front_right],
        "rear_axle" => %w[rear_left rear_right],
        "vehicle" => %w[front_left front_right rear_left rear_right front_axle rear_axle trailer_left trailer_right]
      }.freeze

      PLACES = (COVERS.keys + COVERS.values.flatten).uniq.freeze

      # Where on the vehicle a word is done: a corner, an axle, the vehicle, or nil.
      def self.place_of(word)
        object = word.split(":", 2).last
        PLACES.include?(object) ? object : nil
      end

      # Does what holds at a place hold at another one too? place, other: id or nil, where a state has no places.
      def self.covers?(place, other)
        place.nil? || other.nil? || place == other || COVERS.fetch(place, []).include?(other)
      end

      # The rules of a catalogue for a vehicle, made once for all that answer alike where it matters. catalogue:
      # Knowledge::Catalogue; sheet: Vehicle::Sheet. Raises KnowledgeError for a word or a state that is not known.
      def self.of(catalogue, sheet)
        @made ||= {}.compare_by_identity
        made = @made[catalogue] ||= { fields: fields(catalogue), rules: {} }
        made[:rules][sheet.answers.values_at(*made[:fields])] ||= new(catalogue, sheet)
      end

      # Fields of the sheet that states and conditions ask for.
      def self.fields(catalogue)
        records = catalogue.states.values + catalogue.conditions.values
        lines = records + records.flat_map { |record| record["while"] || [] }
        lines.flat_map { |line| (line["vehicle"] || {}).keys }.uniq
      end
      private_class_method :fields, :new

      # As above.
      def initialize(catalogue, sheet)
        @sheet = sheet
        @states = catalogue.states.values.select { |record| built?(record) }.map { |record| state(record) }
        @conditions = catalogue.conditions.values.select { |record| built?(record) }.map { |record| condition(record) }
        @words = {}
        check(Vocabulary.new(catalogue.plan_words))
      end

      attr_reader :states, :conditions

      # id: of a state. Returns a State.
      def state_of(id)
        @by_id ||= states.to_h { |each| [each.id, each] }
        @by_id.fetch(id)
      end

      # The word that begins a state at a place, nil where none does. place: id or nil.
      def word_of(id, place)
        pattern = state_of(id).begins.first or return
        return pattern unless pattern.end_with?("*")

        pattern.sub("*", place) if PLACES.include?(place)
      end

      # Facts that a word begins: [[state id, place or nil], ...].
      def begun(word)
        facts(word).first
      end

      # [[State, place or nil], ...] that a word ends; nil for every place.
      def ended(word)
        facts(word).last
      end

      # Does a word begin or end any state?
      def changes?(word)
        facts(word).any? { |each| !each.empty? }
      end

      # Conditions of a word.
      def conditions_of(word)
        @conditions_of ||= {}
        @conditions_of[word] ||= conditions.select { |each| Vocabulary.fits_anywhere?(each.word, word) }
      end

      # Facts that what the job touches begins, before any step.
      def touched(touches)
        touched = states.select(&:touched)
        touches.flat_map { |word| begun(word).select { |id, _| touched.any? { |each| each.id == id } } }
      end

      private

      # Words and states that they name must be known. A state that this vehicle does not have is never there.
      def check(vocabulary)
        words = states.flat_map { |each| (each.begins + each.ends).map { |word| [each.id, word] } }
        unknown = words.find { |_, word| !vocabulary.pattern?(word) }
        fail!("states", unknown.first, "'#{unknown.last}' is no word") if unknown
        unmet = conditions.find { |each| vocabulary.words.none? { |word| Vocabulary.fits_anywhere?(each.word, word) } }
        fail!("conditions", unmet.id, "'#{unmet.word}' is no word") if unmet
      end

      def fail!(file, record, problem)
        raise KnowledgeError.new(file: "data/repairs/#{file}.yml", record: record, key: "word", problem: problem)
      end

      def facts(word)
        @words[word] ||= [
          states.select { |each| fits?(each.begins, word) }.map { |each| [each.id, place(each, word)] },
          states.filter_map do |each|
            pattern = each.ends.find { |pattern| Vocabulary.fits?(pattern, word) }
            [each, pattern.end_with?("*") ? place(each, word) : nil] if pattern
          end
        ]
      end

      def fits?(patterns, word)
        patterns.any? { |pattern| Vocabulary.fits?(pattern, word) }
      end

      def place(state, word)
        state.places ? word.split(":", 2).last : nil
      end

      def state(record)
        State.new(
          id: record["id"],
          says: record["says"],
          owes: record["owes"],
          begins: record["begins"],
          ends: record["ends"],
          touched: record["touched"] || false,
          places: (record["begins"] + record["ends"]).any? { |pattern| pattern.end_with?("*") },
          unsaid_while: record["unsaid_while"] || [],
          held: (record["while"] || []).select { |line| built?(line) }.map { |line| line["states"] }
        ).freeze
      end

      def condition(record)
        lists = %w[during after before without].to_h { |name| [name.to_sym, there(record[name] || [])] }
        Condition.new(id: record["id"], word: record["word"], **lists).freeze
      end

      # Those of the states named that this vehicle can be in.
      def there(ids)
        ids.select { |id| states.any? { |each| each.id == id } }
      end

      def built?(line)
        @sheet.fits?(line["vehicle"])
      end
    end
  end
end
