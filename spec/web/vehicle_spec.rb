# frozen_string_literal: true

require "web_helper"

# The vehicle sheet: built from answers, refined by circuit, kept, copied and shared.
RSpec.describe "The vehicle sheet", :web do
  let(:number) { job(codes: "C0031-13 current") }
  let(:page) { "/jobs/#{number}/vehicle" }

  # The circuit form of the page as a browser would send it.
  def circuit_fields(circuit)
    get "#{page}?circuit=#{circuit}"
    form = Nokogiri.HTML5(last_response.body).at_css("form.circuit-form")
    form
      .css("input[name], select[name]")
      .reject { |input| input["type"] == "checkbox" && !input["checked"] }
      .to_h { |input| [input["name"], input["value"]] }
  end

  def post_circuit(circuit, **changes)
    post "#{page}/circuits/#{circuit}", circuit_fields(circuit).merge(changes.transform_keys(&:to_s))
  end

  def circuit(id)
    workshop.dossier(number).log.system.circuit_named(id)
  end

  it "builds the circuits that the answers ask for, and keeps what was seen" do
    submit(
      page,
      page,
      park_brake: "caliper_motor",
      stability: "yes",
      towing: "trailer_brake_module",
      front: "passive",
      rear: "direction"
    )
    expect(last_response.status).to eq(303)
    ids = workshop.dossier(number).log.system.circuits.map(&:id)
    expect(ids).to include("park_brake_left", "yaw_sensor", "trailer_brake")
    expect(circuit("rear_left").harness.id).to eq("wheel_speed_direction")
    expect(workshop.dossier(number).log.body.scans.size).to eq(1)
  end

  it "refuses an answer that no vehicle has, and keeps the sheet" do
    submit(page, page, booster: "rubber")
    expect([last_response.status, text]).to match(
      [422, /vehicle\.booster: 'rubber' is not valid. Expected one of vacuum/]
    )
    expect(workshop.jobs.find(number).vehicle["booster"]).to eq("vacuum")
  end

  it "adds, moves and takes out connectors, and keeps pins, colours, lengths and figures" do
    post_circuit("front_left", op: "add:1")
    expect(Nokogiri.HTML5(last_response.body).css(".connector-row").size).to eq(4)
    fields = circuit_fields("front_left")
    post "#{page}/circuits/front_left",
         fields.merge(
           "joints[1][name]" => "door hinge connector",
           "joints[1][pins][signal]" => "B7",
           "sections[0][length_m]" => "2,4",
           "wires[signal][colour]" => "green",
           "values[coil_ohm][value]" => "1450",
           "values[coil_ohm][tolerance]" => "0.03"
         )
    expect(last_response.status).to eq(303)
    harness = circuit("front_left").harness
    expect(harness.connectors.map { |connector| [connector.id, connector.name] }).to include(
      ["body_connector", "door hinge connector"]
    )
    expect(
      [
        harness.connectors[1].pins["signal"],
        harness.sections[0].length_m,
        harness.wire("signal").colour,
        harness.values["coil_ohm"],
        harness.tolerance("coil_ohm")
      ]
    ).to eq(["B7", 2.4, "green", 1450.0, 0.03])
    expect(circuit("front_right").harness.values["coil_ohm"]).to eq(1100.0)
  end

  it "adds a connector by its own name, with tests and faults at it" do
    post_circuit("front_left", op: "add:0")
    fields =
      Nokogiri
        .HTML5(last_response.body)
        .at_css("form.circuit-form")
        .css("input[name]")
        .reject { |input| input["type"] == "checkbox" && !input["checked"] }
        .to_h { |input| [input["name"], input["value"]] }
    post "#{page}/circuits/front_left", fields.merge("joints[1][name]" => "Bulkhead plug", "twin" => "1")
    expect(last_response.status).to eq(303)
    expect(workshop.dossier(number).log.system.test_ids).to include(
      "front_left.resistance.bulkhead_plug",
      "front_right.resistance.bulkhead_plug"
    )
  end

  it "draws the line as it is typed, and says what is wrong with it" do
    post "#{page}/circuits/front_left/draw", circuit_fields("front_left").merge("joints[1][name]" => "Tail gate plug")
    expect(last_response.body).to include("Tail gate plug").and include("<svg")
    post "#{page}/circuits/front_left/draw", circuit_fields("front_left").merge("sections[0][length_m]" => "far")
    expect([last_response.status, text]).to match([200, /'far' is not valid\. Enter a number from 0\.01 to 60/])
  end

  it "tells wrong entries at their fields, keeps what was typed and writes nothing" do
    post_circuit(
      "front_left",
      "joints[0][name]": " ",
      "joints[1][minutes]": "soon",
      "sections[0][cross_section_mm2]": "0.6",
      "values[coil_ohm][value]": "-5"
    )
    shown = Nokogiri.HTML5(last_response.body)
    expect(last_response.status).to eq(422)
    expect(text).to include("Enter what the connector is called").and include("'soon' is not valid").and include(
                  "0.6"
                ).and include("'-5' is not valid")
    expect(shown.at_css("input[name='joints[1][minutes]']")["value"]).to eq("soon")
    expect(workshop.jobs.find(number).vehicle).not_to have_key("circuits")
  end

  it "does not let go of a connector at which something was measured" do
    read(number, "front_left.resistance.body_connector", "OL")
    post_circuit("front_left", op: "remove:1")
    fields =
      Nokogiri
        .HTML5(last_response.body)
        .at_css("form.circuit-form")
        .css("input[name]")
        .reject { |input| input["type"] == "checkbox" && !input["checked"] }
        .to_h { |input| [input["name"], input["value"]] }
    post "#{page}/circuits/front_left", fields
    expect([last_response.status, text]).to match(
      [422, /evidence 3, test: 'front_left\.resistance\.body_connector' is not valid/]
    )
  end

  it "keeps a connector that holds a part, and the last one" do
    post_circuit("return_pump", op: "remove:1")
    expect(text).to include("relay socket holds a part of this circuit and stays")
  end

  it "keeps a sheet for the next such vehicle, which starts from it" do
    post_circuit("front_left", "values[coil_ohm][value]": "1700")
    submit(page, "#{page}/template", name: "Ferry van")
    expect(text).to include("Saved as template 'Ferry van'")
    submit(page, "#{page}/template", name: " ")
    expect([last_response.status, text]).to match([422, /Enter a name of 1 to 120 letters/])
    like = job(like: workshop.templates.all.first.id.to_s, name: "Second van")
    expect(workshop.jobs.find(like).vehicle).to include(
      "name" => "Second van",
      "circuits" => hash_including("front_left")
    )
  end

  it "copies the wiring of another vehicle, not its name" do
    post_circuit("front_left", "values[coil_ohm][value]": "1700")
    other = job(name: "Other van")
    submit("/jobs/#{other}/vehicle", "/jobs/#{other}/vehicle/copy", source: "job:#{number}")
    expect(workshop.jobs.find(other).vehicle).to include(
      "name" => "Other van",
      "circuits" => hash_including("front_left")
    )
    submit("/jobs/#{other}/vehicle", "/jobs/#{other}/vehicle/copy", source: "job:J999")
    expect(last_response.status).to eq(404)
  end

  it "saves the sheet as a file and opens it again without loss" do
    post_circuit("front_left", "values[coil_ohm][value]": "1700")
    get "#{page}.json"
    saved = last_response.body
    expect(Gadwall::VehicleFile.parse(saved)).to eq(workshop.jobs.find(number).vehicle)
    other = job(name: "Other van")
    upload = Rack::Test::UploadedFile.new(StringIO.new(saved), "application/json", original_filename: "van.json")
    submit("/jobs/#{other}/vehicle", "/jobs/#{other}/vehicle/open", file: upload)
    expect(last_response.status).to eq(303)
    expect(workshop.jobs.find(other).vehicle).to eq(workshop.jobs.find(number).vehicle.merge("name" => "Other van"))
  end

  {
    "{" => /line \d+ column \d+|expected a JSON document/,
    "{}" => /gadwall_vehicle/,
    '{"gadwall_vehicle":1,"vehicle":{"booster":"rubber"}}' => /vehicle booster/,
    '{"gadwall_vehicle":1,"vehicle":{"circuits":{"front_left":{"joints":[{"id":"a"},{"id":"b"}]}}}}' => /sections/,
    "\xFF\xFE" => /JSON document/
  }.each do |bad, message|
    it "answers the broken file #{bad.inspect[0, 40]} with one sentence at the field" do
      upload = Rack::Test::UploadedFile.new(StringIO.new(bad), "application/json", original_filename: "van.json")
      submit(page, "#{page}/open", file: upload)
      expect(last_response.status).to eq(422)
      expect(Nokogiri.HTML5(last_response.body).at_css("#error-open").text).to match(message)
    end
  end

  it "asks only what the sheet can keep, with the usual answer first" do
    asked = catalogue.questions.transform_values { |question| question["answers"].keys }
    expect(asked).to eq(Gadwall::Vehicle::FIELDS)
    schemas =
      %w[case vehicle].map do |name|
        JSON.parse(File.read(File.join(Gadwall::ROOT, "docs/formats/#{name}.schema.json")))
      end
    expect(schemas[0]["properties"]["vehicle"]).to eq(schemas[1]["properties"]["vehicle"])
    expect(schemas[0]["$defs"]["circuit"]).to eq(schemas[1]["$defs"]["circuit"])
    schema = schemas[1].dig("properties", "vehicle", "properties")
    expect(Gadwall::Vehicle::FIELDS).to all(
      satisfy { |field, answers| (schema[field]["enum"] & answers) == schema[field]["enum"].grep(String) }
    )
  end

  Gadwall::Evaluation::OwnCircuits::Study::VEHICLES.each do |name, sheet|
    it "serves every circuit of the #{name} with its own drawn line, plan and tests" do
      vehicle = { "name" => name }.merge(sheet)
      made = job
      perform(made, Gadwall::Job::Acts::EditSheet, vehicle: vehicle, system: workshop.loader.system(vehicle))
      perform(made, Gadwall::Job::Acts::KeepScan, modules: [{ "name" => "ABS", "answered" => true }], codes: [])
      circuits = workshop.dossier(made).log.system.circuits
      circuits.each do |circuit|
        get "/jobs/#{made}/trace?circuit=#{circuit.id}"
        shown = Nokogiri.HTML5(last_response.body)
        expect([last_response.status, shown.at_css(".harness-title")&.text.to_s]).to match([200, /#{circuit.title}/i]),
        circuit.id
        expect(shown.css(".harness-figure .connector-name").map(&:text)).to eq(circuit.harness.connectors.map(&:name)),
        circuit.id
        expect(shown.at_css("form.reading input[name=test]")["value"]).to start_with("#{circuit.id}."), circuit.id
      end
      expect(shown_on_plan(made)).to eq(circuits.size)
    end
  end

  def shown_on_plan(number)
    get "/jobs/#{number}/trace"
    Nokogiri.HTML5(last_response.body).css(".plan-figure a").size
  end
end
