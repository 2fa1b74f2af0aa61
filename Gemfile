# frozen_string_literal: true

# Every version is held here, so that no lock file is needed: it would name the server that the gems came from, and that is
# the machine's own setting. Below each group stands what it needs in turn, at the versions that the tests passed with.
source Gem.sources.first.uri.to_s

gem "json", "2.16.0"
gem "json_schemer", "2.5.0"
gem "zeitwerk", "2.6.18"

gem "bigdecimal", "4.1.3"
gem "hana", "1.3.7"
gem "regexp_parser", "2.13.1"
gem "simpleidn", "0.3.0"

group :web do
  gem "erubi", "1.13.1"
  gem "puma", "6.6.1"
  gem "rack-protection", "4.2.1"
  gem "rackup", "2.3.1"
  gem "sequel", "5.110.0"
  gem "sinatra", "4.2.1"
  gem "sqlite3", "1.7.3"

  gem "base64", "0.3.0"
  gem "logger", "1.7.0"
  gem "mustermann", "3.1.1"
  gem "nio4r", "2.7.5"
  gem "rack", "3.2.8"
  gem "rack-session", "2.1.2"
  gem "tilt", "2.9.0"
end

group :test do
  gem "capybara", "3.40.0"
  gem "cuprite", "0.19"
  gem "nokogiri", "1.16.8"
  gem "rack-test", "2.3.0"
  gem "rspec", "3.13.2"

  gem "addressable", "2.9.2"
  gem "concurrent-ruby", "1.3.8"
  gem "diff-lcs", "1.6.2"
  gem "ferrum", "0.19.2"
  gem "matrix", "0.4.3"
  gem "mini_mime", "1.1.5"
  gem "public_suffix", "6.0.2"
  gem "racc", "1.8.1"
  gem "rspec-core", "3.13.7"
  gem "rspec-expectations", "3.13.6"
  gem "rspec-mocks", "3.13.9"
  gem "rspec-support", "3.13.8"
  gem "websocket-driver", "0.8.2"
  gem "websocket-extensions", "0.1.5"
  gem "xpath", "3.2.0"
end
