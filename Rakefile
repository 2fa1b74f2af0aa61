# frozen_string_literal: true

# The same things that bin/ does, by the names that Ruby people type.
{
  "default" => ["bin/test", "Everything that CI runs"],
  "spec" => ["bundle exec rspec", "Every spec, one after the other"],
  "check" => ["bin/check", "Data, lint and lengths, in a minute"],
  "bench" => ["bin/bench", "Figures of speed; fails where one is short"],
  "demo" => ["bin/demo", "The application with the demo workshop"],
  "pictures" => ["bin/pictures", "The pictures of docs/screenshots"]
}.each do |name, (command, words)|
  desc words
  task(name) { sh command }
end
