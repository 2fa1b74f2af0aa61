# frozen_string_literal: true

source Gem.sources.first.uri.to_s

gem "json_schemer", "~> 2.4"
gem "zeitwerk", "~> 2.6.18"

group :web do
  gem "erubi", "~> 1.13"
  gem "puma", "~> 6.4"
  gem "rack-protection", "~> 4.1"
  gem "rackup", "~> 2.2"
  gem "sequel", "~> 5.80"
  gem "sinatra", "~> 4.1"
  gem "sqlite3", "~> 1.7.3"
end

group :test do
  gem "capybara", "~> 3.40"
  gem "nokogiri", "~> 1.16.8"
  gem "cuprite", "~> 0.15"
  gem "rack-test", "~> 2.1"
  gem "rspec", "~> 3.12"
end
