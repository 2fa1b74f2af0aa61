# frozen_string_literal: true

module Gadwall
  module Circuits
    # How bad a fault can be: a grid of values with weights, so that a likelihood can be summed over it.
    # A bad connector is anything from some ohms to megohms: evenly spread over the logarithm, unless known.
    module Severity
      # spec: {"open" => ohm}, {"log_uniform" => [from, to], "points" => n} or {"points" => [values]}; with "beyond" =>
      # ohm and "beyond_share" a share that lies past the evenly spread part: a break that is over limit at last; with
      # "shares" => one for each point, where some decades are met more often than others.
      # Returns [[value, weight], ...] with weights that sum to 1.
      def self.grid(spec)
        return [[spec["open"], 1.0]].freeze if spec["open"]
        return even(spec["points"]) unless spec["log_uniform"]

        low, high = spec["log_uniform"].map { |limit| Math.log(limit) }
        step = (high - low) / spec["points"]
        values = (0...spec["points"]).map { |i| Math.exp(low + (step * (i + 0.5))) }
        return values.zip(spec["shares"]).freeze if spec["shares"]

        spread = even(values)
        return spread unless spec["beyond"]

        share = spec["beyond_share"]
        [*spread.map { |value, weight| [value, weight * (1 - share)] }, [spec["beyond"], share]].freeze
      end

      def self.even(values)
        values.map { |value| [value, 1.0 / values.size] }.freeze
      end
      private_class_method :even
    end
  end
end
