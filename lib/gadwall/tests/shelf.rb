# frozen_string_literal: true

module Gadwall
  module Tests
    # What was computed of one harness, put away under its key: read once, when something of it is asked for. Where it
    # is put is told from outside (a folder of files, say): the core knows no disk.
    class Shelf
      # place: answers read(key), with bytes or nil, and write(key, bytes); key: text, of the harness.
      def initialize(place, key)
        @place = place
        @key = key
      end

      # What is put away under a name, or nil.
      def [](name)
        rows[name]
      end

      # Puts things away beside those that are there; nothing is written where none is new. things: {name => values}.
      def put(things)
        return if things.keys.all? { |name| rows.key?(name) }

        @rows = rows.merge(things).freeze
        @place.write(@key, Marshal.dump(@rows))
      end

      # The shelf of the same harness with some values otherwise. point: {id => number}.
      def beside(point)
        Shelf.new(@place, "#{@key} #{point.sort.inspect}")
      end

      private

      def rows
        @rows ||= (bytes = @place.read(@key)) ? rows_of(bytes) : {}
      end

      # What cannot be read any more is computed anew.
      def rows_of(bytes)
        rows = Marshal.load(bytes) # rubocop:disable Security/MarshalLoad -- our own, in a folder of mode 0700
        rows.is_a?(Hash) ? rows.freeze : {}
      rescue TypeError, ArgumentError, NameError, EOFError
        {}
      end
    end
  end
end
