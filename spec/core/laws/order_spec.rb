# frozen_string_literal: true

require "spec_helper"

# The rooms of the core use those above them, as lib/gadwall.rb lists them: by the constants that they name.
RSpec.describe Rooms do
  rooms = described_class.new

  it "lists every room" do
    expect(rooms.listed).to match_array(rooms.folders)
  end

  it "sees what crosses, and not what a room calls its own" do
    crossings = rooms.uses.map { |use| [use.from, use.to] }
    expect(crossings).to include(%w[cli calculators], %w[diagnosis vehicle], %w[simulator protocols])
    expect(crossings).not_to include(%w[cli tests]) # CLI::Tests is a command
  end

  rooms.listed.each do |room|
    it "has #{room} use nothing below it" do
      wrong = rooms.wrong.select { |use| use.from == room }
      expect(wrong.map { |use| "#{use.file}:#{use.line} names #{use.to}" }).to eq([])
    end
  end
end
