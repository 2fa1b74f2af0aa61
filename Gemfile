# frozen_string_literal: true

# Every version is held here, so that no lock file is needed: it would name the server that the gems came from, and
# that is the machine's own setting. Below each group stands what it needs in turn, at the versions that the tests
# passed with.
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
  gem "simplecov", "0.22.0"

  gem "addressable", "2.9.2"
  gem "concurrent-ruby", "1.3.8"
  gem "diff-lcs", "1.6.2"
  gem "docile", "1.4.1"
  gem "ferrum", "0.19.2"
  gem "matrix", "0.4.3"
  gem "mini_mime", "1.1.5"
  gem "public_suffix", "6.0.2"
  gem "racc", "1.8.1"
  gem "rspec-core", "3.13.7"
  gem "rspec-expectations", "3.13.6"
  gem "rspec-mocks", "3.13.9"
  gem "rspec-support", "3.13.8"
  gem "simplecov-html", "0.13.2"
  gem "simplecov_json_formatter", "0.1.4"
  gem "websocket-driver", "0.8.2"
  gem "websocket-extensions", "0.1.5"
  gem "xpath", "3.2.0"
end

group :lint do
  gem "erb_lint", "0.9.0"
  gem "rubocop", "1.92.2"
  gem "rubocop-performance", "1.27.0"
  gem "rubocop-rspec", "3.10.2"
  gem "syntax_tree", "6.3.0"

  gem "actionview", "7.2.4"
  gem "activesupport", "7.2.4"
  gem "ast", "2.4.3"
  gem "benchmark", "0.5.0"
  gem "better_html", "2.1.1"
  gem "builder", "3.3.0"
  gem "cgi", "0.5.2"
  gem "connection_pool", "2.5.5"
  gem "crass", "1.0.8"
  gem "drb", "2.2.3"
  gem "i18n", "1.15.2"
  gem "language_server-protocol", "3.17.0.6"
  gem "lint_roller", "1.1.0"
  gem "loofah", "2.25.2"
  gem "minitest", "5.27.0"
  gem "parallel", "1.28.0"
  gem "parser", "3.3.13.0"
  gem "prettier_print", "1.2.1"
  gem "prism", "1.9.0"
  gem "rails-dom-testing", "2.3.0"
  gem "rails-html-sanitizer", "1.7.1"
  gem "rainbow", "3.1.1"
  gem "rubocop-ast", "1.50.0"
  gem "ruby-progressbar", "1.13.0"
  gem "securerandom", "0.4.1"
  gem "smart_properties", "1.17.0"
  gem "tzinfo", "2.0.6"
  gem "unicode-display_width", "3.3.0"
  gem "unicode-emoji", "4.3.0"
end
