# frozen_string_literal: true

require "spec_helper"

# The parts of the core use those above them, as lib/gadwall.rb lists them; the core knows neither store nor app.
RSpec.describe Gadwall do
  root = File.expand_path("../../lib", __dir__)
  listed = File.read(File.join(root, "gadwall.rb")).scan(%r{^#   ([a-z_]+)/}).flatten
  names = listed.to_h { |part| [part, part.split("_").map(&:capitalize).join] }

  def code_of(path)
    File.readlines(path).grep_v(/^\s*#/).map { |line| line.sub(/\s# .*$/, "") }.join
  end

  it "lists every part" do
    folders = Dir[File.join(root, "gadwall/*/")].map { |path| File.basename(path) }
    expect(listed).to match_array(folders)
  end

  listed.each_with_index do |part, place|
    it "has #{part} use nothing below it" do
      below = listed.drop(place + 1).map { |other| names[other] }
      files = Dir[File.join(root, "gadwall/#{part}/**/*.rb")] + Dir[File.join(root, "gadwall/#{part}.rb")]
      wrong =
        files.flat_map do |file|
          code_of(file).scan(/(?<![\w:])(?:Gadwall::)?(#{below.join("|")})::/).flatten.uniq.map { |name| [file, name] }
        end
      expect(below.empty? ? [] : wrong).to eq([])
    end
  end
end
