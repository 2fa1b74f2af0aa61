# frozen_string_literal: true

module Web
  module Pages
    # The page to turn round to the customer: what is wrong, the ways to repair it in plain words, what each costs and
    # risks. What was shown is kept with the answer.
    class CustomerPage < Page
      # An option in the customer's words.
      Row = Struct.new(:id, :words, :cost, :time, :risk, :recommended, :refused, keyword_init: true)
      SURE = {
        "proven" => "This was proven by measurement.",
        "likely" => "This is likely; it is not proven in every point.",
        "open" => "This is not settled yet."
      }.freeze

      def title
        "#{number} · for #{customer}"
      end

      # Decision::Options to be decided next, or nil once all are.
      def options
        @options ||= dossier.options
      end

      def wrong
        capital(options.suspect.text)
      end

      def sure
        SURE.fetch(options.conclusion.state)
      end

      # Array of Row; what may not be chosen is told, with its reason.
      def rows
        options.choices.map do |choice|
          Row.new(
            id: choice.id,
            words: choice.plain || choice.name,
            cost: choice.cost,
            time: time(choice),
            risk: choice.risk,
            recommended: choice.recommended,
            refused: choice.refused
          )
        end
      end

      # All that the page says, in plain text, as it is kept with the answer. money: writes an amount.
      def shown(&)
        lines = ["#{wrong}. #{sure}"]
        rows.each do |row|
          told = row.refused ? "not possible: #{row.refused}" : "#{yield(row.cost)}, #{row.time}. Risk: #{row.risk}"
          lines << "#{row.words} #{told}"
        end
        lines.join("\n")
      end

      private

      def capital(text)
        text.sub(/\A\p{Ll}/, &:upcase)
      end

      def time(choice)
        days = choice.waiting_days
        "#{choice.hours} h of work#{", part in #{days} #{days == 1 ? "day" : "days"}" unless days.zero?}"
      end
    end
  end
end
