# frozen_string_literal: true

# What bin/demo and bin/serve do before any gem is there: install what is missing, and start once more with Ruby's
# compiler where it has one, in a small part of memory, memory that goes back to the system, and room for what is always
# there: with little room a third of a reading's time goes to collecting.
module StartProcess
  ROOT = File.expand_path("..", __dir__)
  JIT = %w[--yjit --yjit-exec-mem-size=16].freeze
  MEMORY = {
    "MALLOC_ARENA_MAX" => "1",
    "RUBY_GC_HEAP_INIT_SLOTS" => "800000",
    "RUBY_GC_HEAP_GROWTH_FACTOR" => "1.1"
  }.freeze
  FAILED = "bin/setup could not install what Gadwall needs; its last words are above."

  # file: the program; arguments: its own. Returns with the application's gems at hand, in a process started so.
  def self.ready(file, arguments)
    start_again(file, arguments) unless ENV["GADWALL_STARTED"]
    ENV["BUNDLE_GEMFILE"] = File.join(ROOT, "Gemfile")
    ENV["BUNDLE_PATH"] = File.join(ROOT, "vendor/bundle")
    ENV["BUNDLE_WITHOUT"] ||= "test:lint"
    require "bundler"
    Bundler.setup(:default, :web)
  end

  def self.start_again(file, arguments)
    system(File.join(ROOT, "bin/setup")) || abort(FAILED)
    jit = defined?(RubyVM::YJIT) ? JIT : []
    exec({ "GADWALL_STARTED" => "1", **MEMORY }, RbConfig.ruby, *jit, file, *arguments)
  end
  private_class_method :start_again
end
