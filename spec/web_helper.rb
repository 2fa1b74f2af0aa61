# frozen_string_literal: true

require "spec_helper"
require_relative "../app/boot"
require_relative "../demo/workshop"
require "rack/test"
require "time"
require "nokogiri"
Dir[File.join(__dir__, "support", "web", "*.rb")].each { |file| require file }
