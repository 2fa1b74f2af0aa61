# frozen_string_literal: true

# COVERAGE=name: how many lines of lib, app and store a run meets, with those of other runs of the last ten minutes.
if (run = ENV.fetch("COVERAGE", nil))
  require "simplecov"
  SimpleCov.start do
    command_name run
    coverage_dir "var/coverage"
    add_filter %r{\A/(?:spec|demo|performance|evaluation|vendor)/}
    at_exit do
      met = SimpleCov.result
      $stdout.puts format("  lines met so far: %.1f %% of %d", met.covered_percent, met.total_lines)
    end
  end
end

$LOAD_PATH.unshift File.expand_path("../lib", __dir__)
require "gadwall"
require_relative "../evaluation/boot"
require_relative "../demo/sign_off"

Dir[File.join(__dir__, "support", "core", "*.rb")].each { |file| require file }

RSpec.configure do |config|
  config.disable_monkey_patching!
  config.expect_with(:rspec) { |expectations| expectations.syntax = :expect }
  config.mock_with(:rspec) { |mocks| mocks.verify_partial_doubles = true }
  config.include CoreHelp
end
