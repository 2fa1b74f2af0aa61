# frozen_string_literal: true

require "web_helper"

# A sum counts with what was typed, and with nothing else.
RSpec.describe "Sums", :web do
  it "asks for what is missing, and shows no result until it is there" do
    get "/sums?sum=slope_hold"
    expect(text).not_to include("Source:")
    get "/sums?sum=slope_hold&grade=20"
    expect([last_response.status, text]).to match([200, /Still needed too: .*tyre/i])
    expect(Nokogiri.HTML5(last_response.body).at_css(".sum-number")).to be_nil
    fields = Nokogiri.HTML5(last_response.body).css(".sum-fields input")
    expect(fields.to_h { |field| [field["name"], field["value"]] }).to include("mass" => "", "grade" => "20")
    expect(fields.find { |field| field["name"] == "mass" }["placeholder"]).to eq("such as 1800")
  end

  it "tells what it assumed" do
    get "/sums?sum=voltage_drop&length=7&section=1.5&current=15"
    expect(text).to include("Temperature 20 °C (assumed)").or include("temperature 20 °C (assumed)")
  end

  it "refuses to take a sum that does not come out, with what was typed" do
    number = job
    form = guards("/sums?sum=pump_duty&run=20&rest=5&flow=5", "/sums/take")
    ["x", "1e999", "-3", "", "NaN"].each_with_index do |run, i|
      post "/sums/take", form.merge("sum" => "pump_duty", "run" => run, "job" => number, "form_token" => "t#{i}")
      expect([run, last_response.status]).to eq([run, 422])
      post "/sums/read", form.merge("sum" => "pump_duty", "run" => run, "job" => number, "form_token" => "r#{i}")
      expect([run, last_response.status]).to eq([run, 422])
    end
  end
end
