# frozen_string_literal: true

require "web_helper"

# What is done beside the pages: one thing after the other, a bound, and no name twice.
RSpec.describe Web::Background::Worker do
  # Holds the worker until everything has been asked for; then what was done, in order.
  def done_of
    worker = described_class.new
    held = Queue.new
    begun = Queue.new
    done = Queue.new
    worker.later { begun << held.pop }
    Thread.pass while worker.size.positive?
    yield worker, done
    held << true
    worker.later { done << :end }
    list = []
    list << done.pop until list.last == :end
    list
  end

  it "keeps one of a name waiting" do
    done = done_of { |worker, list| 3.times { worker.later(once: :tidy) { list << :tidy } } }
    expect(done).to eq(%i[tidy end])
  end

  it "takes a name again after what waited under it was dropped" do
    done =
      done_of do |worker, list|
        worker.later(once: :tidy) { list << :dropped }
        described_class::MOST.times { worker.later { list << :other } }
        worker.later(once: :tidy) { list << :tidy }
      end
    expect(done).to include(:tidy).and(satisfy { |list| !list.include?(:dropped) })
  end
end
