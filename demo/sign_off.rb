# frozen_string_literal: true

module Demo
  # What would be entered for a step where all is well: for the demo and the specs, which sign many.
  module SignOff
    # step: Repair::Step. Returns {figures: {id => text}, ticks: [id], tool: text}.
    def self.values(step)
      figures = step.asks.to_h { |ask| [ask["id"], middle(ask).to_s] }
      step.asks.each do |ask|
        figures[ask["id"]] = figures.fetch(ask["near"] || ask["same_as"]) if ask["near"] || ask["same_as"]
      end
      step.names.each { |each| figures[each["id"]] = "O. Fennel" }
      step
        .compare
        .select { |line| line["needed"] }
        .each do |line|
          figures["#{line["id"]}.old"] = "W-4410"
          figures["#{line["id"]}.new"] = "W-4410"
        end
      { figures: figures, ticks: step.to_tick.map(&:first), tool: "bench tablet" }
    end

    # A sound figure: the middle of the limits, a whole number where one fits.
    def self.middle(ask)
      low, high = ask.values_at("low", "high")
      return low if low >= 0 && ask["of"] == "measured" && low.zero? && high <= 1

      middle = (low + [high, low + 40].min) / 2.0
      middle.round.between?(low, high) ? middle.round : middle.round(2)
    end
    private_class_method :middle
  end
end
