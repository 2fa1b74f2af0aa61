# frozen_string_literal: true

module Gadwall
  module Scheduling
    # A good day for many jobs: rules of thumb give the first order, then steps are moved about as long as that betters
    # it (local search, seeded; handbook: scheduling, from memory).
    class Search
      WORK = 18_000 # steps placed in all, so that a large day takes no longer than a small one
      KICK = 4 # steps moved at once where nothing betters it any more

      # problem: Problem; criterion: as of Exact; seed: Integer; work: steps placed at the most.
      def initialize(problem, criterion: :cost.to_proc, seed: 1, work: WORK)
        @problem = problem
        @criterion = criterion
        @random = Random.new(seed)
        @builder = Builder.new(problem)
        @work = work
        @steps = problem.steps.to_h { |step| [step.id, step] }
      end

      # Returns a Schedule.
      def solve
        orders = rules.map { |rule| by(rule) }
        built = orders.map { |order| [order, @builder.build(order)] }
        order, schedule = built.min_by { |_, each| @criterion.call(each) }
        improve(order, schedule, rounds - orders.size)
      end

      private

      def rounds
        [@work / [@steps.size, 1].max, 30].max
      end

      # What goes first: least slack, the promise, the longest chain, the shortest step.
      def rules
        tails = tails()
        slack = ->(step) { (promise(step) || Timeline::FOREVER) - tails[step.id] }
        [
          slack,
          ->(step) { [promise(step) || Timeline::FOREVER, -tails[step.id]] },
          ->(step) { -tails[step.id] },
          ->(step) { [step.earliest, step.minutes] }
        ]
      end

      def promise(step)
        (@promises ||= @problem.jobs.to_h { |job| [job.id, job.promised] })[step.job]
      end

      # {step id => minutes from its beginning to the end of its job, nobody in the way}.
      def tails
        followers = Hash.new { |hash, key| hash[key] = [] }
        @steps.each_value { |step| step.after.each { |id| followers[id] << step.id } }
        known = {}
        reach = ->(id) { known[id] ||= @steps[id].minutes + (followers[id].map { |each| reach.call(each) }.max || 0) }
        @steps.each_key { |id| reach.call(id) }
        known
      end

      # An order in which each follows its forerunners, the least by the rule first.
      def by(rule)
        left = @steps.values
        done = Set.new
        order = []
        until left.empty?
          step = left.select { |each| each.after.all? { |id| done.include?(id) } }.min_by(&rule)
          order << step.id
          done << step.id
          left.delete(step)
        end
        order
      end

      def improve(order, schedule, rounds)
        best = [order, schedule, @criterion.call(schedule)]
        now = best
        idle = 0
        rounds.times do
          tried = moved(now[0], idle > @steps.size ? KICK : 1)
          next unless tried

          built = @builder.build(tried)
          cost = @criterion.call(built)
          idle = (cost <=> now[2]).negative? ? 0 : idle + 1
          now = [tried, built, cost] if (cost <=> now[2]) <= 0 || idle > @steps.size
          best = now if (now[2] <=> best[2]).negative?
          now = best if idle > @steps.size * 3
          idle = 0 if idle > @steps.size * 3
        end
        best[1]
      end

      # The order with some step put elsewhere, where its forerunners and followers allow; nil where none can.
      def moved(order, times)
        made = order.dup
        times.times do
          id = made[@random.rand(made.size)]
          from = made.index(id)
          low = (@steps[id].after.map { |each| made.index(each) }.max || -1) + 1
          high = (made.each_index.select { |i| @steps[made[i]].after.include?(id) }.min || made.size) - 1
          next if low >= high

          to = low + @random.rand(high - low + 1)
          made.insert(to, made.delete_at(from))
        end
        made == order ? nil : made
      end
    end
  end
end
