# frozen_string_literal: true

require_relative "app/boot"

run Web::App.for_database(ENV["GADWALL_DB"] || File.join(Gadwall::ROOT, "var/gadwall.sqlite3"), warm: true)
