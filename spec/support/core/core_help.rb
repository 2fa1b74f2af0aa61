# frozen_string_literal: true

# Short ways to say what most core specs need.
module CoreHelp
  MODELS = Gadwall::Vehicle::ModelCache.new # shared by all examples: models never change

  def catalogue
    Gadwall::Knowledge.catalogue
  end

  # A System of a vehicle with these sensors ("passive", "active" or a Hash).
  def system_with(sensors, **more)
    Gadwall::Vehicle::System.build(
      Gadwall::Vehicle::Sheet.new({ "name" => "spec", "sensors" => sensors }.merge(more.transform_keys(&:to_s))),
      models: MODELS
    )
  end

  # A body of evidence from entries as in a case file.
  def body_of(system, *entries)
    Gadwall::Job::Log.new(entries, system).body
  end

  # For mutated inputs: the block may read the text, or refuse it with the one error that says where; nothing else.
  def reads_or_says_where(text)
    yield
  rescue Gadwall::InputError => error
    raise "#{error.message} for #{text.inspect}" unless error.message.match?(/line \d+, column \d+/)
  end

  def reading(test, text)
    { "kind" => "reading", "test" => test, "reading" => text }
  end

  def finding(test, result)
    { "kind" => "finding", "test" => test, "result" => result }
  end

  def scan(*codes, answered: true)
    rows =
      codes.map do |code|
        if code.is_a?(Hash)
          code
        else
          { "code" => code.split("-").first, "failure_type" => code.split("-")[1], "status" => "current" }
        end
      end
    { "kind" => "scan", "modules" => [{ "name" => "ABS", "answered" => answered }], "codes" => rows }
  end

  def assess(system, *entries)
    Gadwall::Diagnosis.assess(system, body_of(system, *entries))
  end

  def expect_refusal(message = nil, error: Gadwall::InputError, &block)
    message ? expect(&block).to(raise_error(error, message)) : expect(&block).to(raise_error(error))
  end
end
