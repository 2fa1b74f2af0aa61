# frozen_string_literal: true

# For another server than bin/demo starts: GADWALL_DB names the database, GADWALL_HOSTS the names served beside
# loopback.
require_relative "app/boot"

path = ENV["GADWALL_DB"] || File.join(Gadwall::ROOT, "var/gadwall.sqlite3")
LOCK = Store::Lock.take(path, "a server of config.ru (process #{Process.pid})") # held until the process ends

run Web::App.for_database(
      path,
      hosts: ENV["GADWALL_HOSTS"].to_s.split(/[,\s]+/),
      warm: true
    )
