# frozen_string_literal: true

$LOAD_PATH.unshift File.expand_path("../lib", __dir__)
require "gadwall"
require_relative "../store/store"
require_relative "web"
