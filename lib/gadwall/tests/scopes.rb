# frozen_string_literal: true

module Gadwall
  module Tests
    # What a test record is spread over in one harness: its connectors, pairs of them, sections, wires, modules.
    class Scopes
      # word of "each" => where its choices come from.
      CHOICES = {
        "connector" => :connectors,
        "connector_before_last" => :connectors_before_last,
        "connector_between" => :connectors_between,
        "connector_pair" => :connector_pairs,
        "splice" => :splices,
        "splice_pair" => :splice_pairs,
        "section" => :sections,
        "wire" => :wires,
        "neighbours" => :neighbours,
        "module" => :modules
      }.freeze

      # harness: Circuits::Harness.
      def initialize(harness)
        @harness = harness
      end

      # record: of data/tests. Returns what it is spread over: [{connector: ..., wire: ...}, ...], [{}] where it stands
      # once.
      def of(record)
        scopes = [{}]
        (record["each"] || []).each do |word|
          scopes = scopes.flat_map { |scope| choices(record, word).map { |choice| scope.merge(choice) } }
        end
        scopes.select { |scope| possible?(record, scope) }
      end

      private

      # A wire is met only where it passes; only what comes apart can be disconnected, and only what has no plug is
      # looked at as a splice.
      def possible?(record, scope)
        connectors = scope.values_at(:connector, :from, :to).compact
        return true if connectors.empty?
        return false if connectors.any?(&:splice?) && named_pins?(record)

        wires_pass?(record, scope, connectors) && (scope[:section] || kinds_fit?(record, connectors.map(&:kind)))
      end

      def wires_pass?(record, scope, connectors)
        passed = scope[:section] ? [scope[:section]] : connectors
        scope.values_at(:wire, :beside).compact.all? { |wire| passed.all? { |each| each.carries?(wire) } } &&
          (scope[:connector].nil? || named_wires(record).all? { |wire| scope[:connector].carries?(wire) })
      end

      def kinds_fit?(record, kinds)
        only = record.dig("only", "kinds")
        first = record.dig("only", "from")
        except = record.dig("except", "kinds") || []
        except |= ["splice"] if APART.include?(record.dig("state", "disconnected")) && !record["opens_splice"]
        (only.nil? || (kinds - only).empty?) && (first.nil? || kinds.first == first) && !kinds.intersect?(except)
      end

      # Does a record name pins of the connectors that it is spread over? A splice has none.
      def named_pins?(record)
        [record["where"], record["title"]].compact.any? do |text|
          text.match?(/\{pin(?:_from|_to|_wire|_beside| \w+)\}/)
        end
      end

      # Wires whose pin at the connector itself a record names: "{pin feed}", or probes "feed@{connector_id}.near".
      def named_wires(record)
        texts = [record["where"], record["title"], *record["probes"]]
        ids = texts.compact.flat_map { |text| text.scan(/\{pin (\w+)\}|(\w+)@\{connector_id\}/).flatten }
        ids.compact.uniq.filter_map { |id| @harness.wire(id) }
      end

      APART = %w[here both here_and_last].freeze # states in which the connector that is meant comes apart

      # A record may be held to some connectors or wires ("only"), or leave some out ("except").
      def choices(record, word)
        send(CHOICES.fetch(word)).select { |choice| wanted?(record, *choice.first) }
      end

      # what: :connector, :wire ...; value: which of them.
      def wanted?(record, what, value)
        only = record.dig("only", "#{what}s")
        except = record.dig("except", "#{what}s") || []
        name = value.respond_to?(:id) ? value.id : value
        (only.nil? || only.include?(name)) && !except.include?(name)
      end

      def connectors
        at(@harness.connectors)
      end

      def connectors_before_last
        at(@harness.connectors[0..-2])
      end

      def connectors_between
        at(@harness.connectors[1..-2] || [])
      end

      def splices
        at(@harness.connectors.select(&:splice?))
      end

      def at(connectors)
        connectors.map { |connector| { connector: connector } }
      end

      def connector_pairs
        @harness.connectors.combination(2).map { |from, to| { from: from, to: to } }
      end

      # Each splice with the plug before it and the one after it.
      def splice_pairs
        line = @harness.connectors
        line.each_with_index.flat_map do |splice, i|
          next [] unless splice.splice?

          before = line.first(i).reverse.find { |each| each.kind == "plug" }
          after = line.drop(i + 1).find { |each| each.kind == "plug" }
          [before && { from: before, to: splice }, after && { from: splice, to: after }].compact
        end
      end

      def sections
        @harness
          .sections
          .reject { |section| section.wires.empty? }
          .map { |section| { section: section, from: section.from, to: section.to } }
      end

      def wires
        @harness.wires.map { |wire| { wire: wire } }
      end

      # Two wires side by side, which may touch.
      def neighbours
        @harness.wires.each_cons(2).map { |wire, beside| { wire: wire, beside: beside } }
      end

      def modules
        @harness.modules.map { |id, connector| { module: id, connector: connector } }
      end
    end
  end
end
