# frozen_string_literal: true

require "tsort"

module Gadwall
  module Repair
    # The order of steps: a partial order by what follows what, and by phase where nothing is said. A step that
    # something of an earlier phase waits for is taken as early as that asks for (handbook: topological sort, Kahn 1962,
    # from memory).
    module Ordering
      # id: of the step; rule: id of its rule; does: words; after, before: words (patterns) and ids of rules.
      Node = Struct.new(:id, :rule, :does, :after, :before)

      # nodes: Array of Node. Returns {id => [ids that it follows]}.
      def self.followers(nodes)
        index = index(nodes)
        follows = nodes.to_h { |node| [node.id, []] }
        nodes.each do |node|
          node.after.each { |each| matching(index, each, node).each { |other| follows[node.id] << other.id } }
          node.before.each { |each| matching(index, each, node).each { |other| follows[other.id] << node.id } }
        end
        follows.transform_values(&:uniq)
      end

      # {verb or id of a rule => [[word, Node], ...]}.
      def self.index(nodes)
        nodes.each_with_object(Hash.new { |hash, key| hash[key] = [] }) do |node, index|
          index[node.rule] << [node.rule, node]
          node.does.each { |word| index[word[0, word.index(":")]] << [word, node] }
        end
      end

      def self.matching(index, reference, own)
        verb = reference.include?(":") ? reference[0, reference.index(":")] : reference
        index
          .fetch(verb, [])
          .select { |word, node| node.rule != own.rule && Vocabulary.fits?(reference, word) }
          .map(&:last)
      end

      # follows: as of `followers`; phases: {id => index of the phase}. Returns the ids in order. Raises KnowledgeError
      # for a circle.
      def self.sort(follows, phases)
        early = earliest(follows, phases)
        places = follows.keys.each_with_index.to_h
        waiting = follows.transform_values(&:dup)
        order = []
        until waiting.empty?
          ready = waiting.select { |_, before| before.empty? }.keys
          raise_circle(waiting.keys) if ready.empty?
          id = ready.min_by { |each| [early[each], phases[each], places[each]] }
          order << id
          waiting.delete(id)
          waiting.each_value { |before| before.delete(id) }
        end
        order
      end

      # The phase in which each is needed: its own, or that of what waits for it.
      def self.earliest(follows, phases)
        early = phases.dup
        waits =
          follows.each_with_object(Hash.new { |hash, key| hash[key] = [] }) do |(id, before), hash|
            before.each { |each| hash[each] << id }
          end
        order = []
        seen = {}
        visit =
          lambda do |id|
            return if seen[id]

            seen[id] = true
            waits[id].each { |each| visit.call(each) }
            order << id
          end
        follows.each_key { |id| visit.call(id) }
        order.each { |id| early[id] = [early[id], *waits[id].map { |each| early[each] }].min }
        early
      end

      # Ids that follow one another in a circle, or nil. follows: as of `followers`.
      def self.circle(follows)
        children = ->(id, &block) { follows.fetch(id).each(&block) }
        TSort.strongly_connected_components(follows.method(:each_key), children).find { |ids| ids.size > 1 }
      end

      def self.raise_circle(ids)
        raise KnowledgeError.new(
                file: "data/#{RuleBase::FOLDER}",
                record: ids.join(", "),
                key: "after",
                problem: "these steps follow one another in a circle"
              )
      end
      private_class_method :index, :matching, :earliest, :raise_circle
    end
  end
end
