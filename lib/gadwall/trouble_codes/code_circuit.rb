# frozen_string_literal: true

module Gadwall
  module TroubleCodes
    # Which circuit of this vehicle a code speaks of: by the maker's words (data/codes/circuit_words.yml) or by the
    # record of a standard's code.
    class CodeCircuit
      # Who has a circuit of his own through which he is missed.
      PRIVATE = {
        "steering_angle" => %w[steering_angle],
        "yaw" => %w[yaw_sensor],
        "trailer_brake" => %w[trailer_brake],
        "epb" => %w[park_brake_unit]
      }.freeze

      def initialize(sheet, catalogue)
        @sheet = sheet
        @catalogue = catalogue
        @corners = CornerWords.new(sheet.driver_side, catalogue)
        @lost = catalogue.patterns(catalogue.claims.fetch("lost_message"))
        @rows = catalogue.circuit_words.map { |row| [catalogue.patterns(row), row["circuits"]] }
      end

      ACCUSES =
        /\b(?:invalid|implausible|incorrect|faulty) (?:data|signals?|messages?|information) (?:received )?from\b/i

      # Id of the module whose data a text calls invalid, or nil.
      def accused(text)
        module_in(text.split(ACCUSES).last) if text.match?(ACCUSES)
      end

      # The id as given. Raises UnknownNameError.
      def checked(id, field)
        return id if @sheet.circuit_ids.include?(id)

        raise UnknownNameError.new(field: "#{field} circuit", given: id, known: @sheet.circuit_ids)
      end

      # [circuit id, id of a module that is missed or nil]; nil where the text tells nothing.
      def of_text(text, sender)
        return nil if text.empty?
        return missed(missed_in(text)) if @lost.match?(text) && module_in(text)

        where = @corners.find(text)
        @rows.each do |patterns, circuits|
          next unless patterns.match?(text)

          found = first_fitted(circuits, where, sender || text)
          return found, nil if found
        end
        nil
      end

      # The same for a record of data/codes/chassis.yml or j1939.yml.
      def of_record(record, sender)
        return nil unless record
        return missed(record["lost"]) if record["lost"]

        found = first_fitted(of_sender(record, sender), CornerWords::Found.new, sender)
        found && [found, nil]
      end

      private

      # A number may mean another circuit by who sent it: axle 1 of the tractor is not that of the trailer. Where nobody
      # is named it is the vehicle's own.
      def of_sender(record, sender)
        from = sender && ModuleName.find(sender, @catalogue)
        towed, own = (record["circuits"] || []).partition { |id| id.start_with?("trailer") }
        from&.start_with?("trailer") ? towed + own : own + towed
      end

      def first_fitted(names, where, sender)
        filled = names.filter_map { |name| fill(name, where, sender) }
        filled.find { |name| @sheet.circuit_ids.include?(name) } || (rear_axle?(filled) ? "rear_axle" : nil)
      end

      # The one rear channel of a three-sensor vehicle hears for both sides.
      def rear_axle?(names)
        @sheet.circuit_ids.include?("rear_axle") && names.any? { |name| name.match?(/\Arear_(?:left|right)\z/) }
      end

      def fill(name, where, sender)
        values = { "corner" => where.corner, "side" => where.side, "end" => where.end, "supply" => supply(sender) }
        key = name[/\{(\w+)\}/, 1]
        return other_end?(name, where) ? nil : name unless key

        values[key] && name.sub("{#{key}}", values[key])
      end

      # Is it the same thing of the other axle?
      def other_end?(name, where)
        where.end && name.match?(/_(?:front|rear)\z/) && !name.end_with?(where.end)
      end

      # The circuit that feeds the module which sent the code; the anti-lock module's where it is not known.
      def supply(sender)
        id = sender && ModuleName.find(sender, @catalogue)
        @sheet.supply_of(id || "abs") || Vehicle::MODULE
      end

      def module_in(text)
        return "steering_angle" if text.match?(/steering(?: wheel)? angle/i)
        return "yaw" if text.match?(/yaw|lateral|acceleration/i)

        ModuleName.find(text, @catalogue)
      end

      # Id of the module that a text says is missed, behind 'with' or 'from'. Who reports it may stand in brackets.
      def missed_in(text)
        named = text.split(/\bwith\b|\bfrom\b|:/i).last.to_s
        module_in(named.gsub(/\([^)]*\)/, "")) || module_in(named) || module_in(text)
      end

      # Where a silent module is missed: on a circuit of its own, or on the bus that it hangs on.
      def missed(module_id)
        own = (PRIVATE[module_id] || []).find { |id| @sheet.circuit_ids.include?(id) }
        return own, nil if own

        bus = @sheet.bus_members.find { |_, members| members.include?(module_id) }&.first
        bus ? [bus, module_id] : (fed = @sheet.supply_of(module_id)) && [fed, nil]
      end
    end
  end
end
