# frozen_string_literal: true

module Web
  module Guards
    # Ruby runs one thread at a time, each for up to 100 ms. A page that computes for a second would let every other one
    # wait so long at each step, so requests take short turns: at priority -3 a turn is an eighth of that.
    class ShortTurns
      PRIORITY = -3

      def initialize(app)
        @app = app
      end

      def call(env)
        Thread.current.priority = PRIORITY
        @app.call(env)
      end
    end
  end
end
