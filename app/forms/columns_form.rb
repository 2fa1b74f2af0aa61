# frozen_string_literal: true

module Web
  module Forms
    # What the columns of a log are taken for, as chosen on the page.
    class ColumnsForm
      # chosen: {"0" => parameter id or "", ...}, by the column's number; columns: [[name, parameter], ...].
      def initialize(chosen, columns)
        @chosen = chosen
        @columns = columns
      end

      # {column => parameter id or ""}. Raises Gadwall::InputError.
      def mapping
        taken = @columns.each_with_index.to_h { |(name, _), i| [name, @chosen[i.to_s].to_s] }
        check_known(taken)
        check_once(taken)
        taken
      end

      private

      def check_known(taken)
        known = Gadwall::Knowledge.catalogue.live_parameters
        name, id = taken.find { |_, id| !id.empty? && !known.key?(id) }
        return unless name

        raise Gadwall::InputError.new(field: name, given: id, expected: "one of the parameters in the list")
      end

      def check_once(taken)
        twice = taken.values.reject(&:empty?).tally.find { |_, count| count > 1 }&.first
        return unless twice

        raise Gadwall::InputError.new(field: "columns", given: twice.tr("_", " "), expected: "each parameter once")
      end
    end
  end
end
