# frozen_string_literal: true

require "browser_helper"

# A scope capture of a job, handed in with a browser, from the line to the evidence and back.
RSpec.describe "A capture", browser: true do
  it "a sprung ring: seen on the drawing, taken into the evidence, and the suspects move" do
    take_in(front: "Active, two wires", rear: "Active, two wires")
    scan("C003A-62 current")
    click_link "Scope captures and live data of this job"
    attach_file "file", File.join(Demo::Workshop::CAPTURES, "sprung_ring_active.csv")
    select "rear right", from: "circuit"
    fill_in "teeth", with: "48"
    click_button "Look at it"
    expect(page).to have_css(".ring-figure .ring-tooth.bad", count: 2)
    expect(page).to have_content("The gap between teeth 21 and 22")
    click_button "Take into the evidence"
    expect(page).to have_current_path(%r{/trace})
    expect(page).to have_css(".suspect.lead", text: /ring/)
    page.go_back
    page.refresh
    expect(page).to have_content("Taken into the evidence.").and have_no_button("Take into the evidence")
  end

  it "a file that is none is refused in words, and the page stands" do
    take_in(front: "Active, two wires", rear: "Active, two wires")
    scan("C003A-62 current")
    visit "#{page.current_path.sub(%r{/trace.*}, '')}/captures"
    attach_file "file", File.join(Gadwall::ROOT, "README.md")
    click_button "Look at it"
    expect(page).to have_css(".field-error", text: /expected/)
    expect(page).to have_button("Look at it")
  end
end
