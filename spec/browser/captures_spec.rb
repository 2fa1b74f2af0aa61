# frozen_string_literal: true

require "browser_helper"
require_relative "../support/core/tone_ring"

# A scope capture of a job with a browser: handed in, looked at with cursors and keys, taken into the evidence.
RSpec.describe "A capture", :browser do
  before do |example|
    next if example.metadata[:whole_way]

    take_in
    visit "/jobs/#{@number}/captures"
  end

  def hand_in(path, circuit: "rear right", kind: "Wheel speed, scope (CSV or VCD)", teeth: "48")
    attach_file "file", path
    select kind, from: "kind"
    select circuit, from: "circuit"
    fill_in "teeth", with: teeth
    click_button "Analyse"
  end

  def sprung_ring
    hand_in(File.join(Demo::Workshop::CAPTURES, "sprung_ring_active.csv"))
    expect(page).to have_css(".viewer[data-ready]")
  end

  def write(name, text)
    File.join(Dir.mktmpdir, name).tap { |path| File.write(path, text) }
  end

  # The stretch of time in view, in seconds, off the first and last rows of the table.
  def in_view
    sleep 0.25 # the table follows a moment after the drawing
    rows = page.all("[data-rows='0'] tr", visible: :all)
    [rows.first.all("td", visible: :all)[0].text(:all).to_f, rows.last.all("td", visible: :all)[1].text(:all).to_f]
  end

  def span
    in_view.then { |from, upto| upto - from }
  end

  def said(name)
    find("[data-out=#{name}]").text
  end

  it "a sprung ring: seen on the drawing, taken into the evidence, and the suspects move", :whole_way do
    take_in(front: "Active, two wires", rear: "Active, two wires")
    scan("C003A-62 current")
    click_link "Scope captures and live data of this job"
    sprung_ring
    expect(page).to have_css(".ring-figure .ring-tooth.bad", count: 2)
    expect(page).to have_content("The gap between teeth 21 and 22")
    click_button "Add to evidence"
    expect(page).to have_current_path(%r{/trace})
    expect(page).to have_css(".suspect.lead", text: /ring/)
    page.go_back
    page.refresh
    expect(page).to have_content("Added to the evidence.").and have_no_button("Add to evidence")
  end

  it "is zoomed, panned and read by keyboard alone" do
    sprung_ring
    whole = span
    find("[data-plots]").execute_script("this.focus()")
    type("+", "+")
    expect(span).to be_within(whole * 0.01).of(whole / 4)
    from = in_view.first
    type(:pagedown)
    expect(in_view.first).to be_within(whole * 0.01).of(from + (whole / 8))
    type("0")
    expect(span).to be_within(whole * 0.001).of(whole)
    type("n")
    expect(span).to be < whole / 3
    type("b")
    expect(page).to have_css("[data-do=b][aria-pressed=true]").and have_css("[data-do=a][aria-pressed=false]")
    before = said("b")
    type(:right, :right)
    expect(page).to have_no_css("[data-out=b]", text: before, exact_text: true)
    type("-")
    expect(page).to have_css(".viewer[data-ready]")
  end

  # The truth is the file's own: demo/captures/README.md, a ring of 48 whose split is 1.6 periods wide.
  it "reads period and frequency between its cursors, as the samples have them" do
    sprung_ring
    find("[data-plots]").execute_script("this.focus()")
    type("n", "a")
    gap = said("also").to_f
    type("t", "b", "t")
    normal = said("also").to_f
    expect(gap / normal).to be_within(0.12).of(1.6)
    expect(said("most").to_f).to be_within(0.02 * 1000 / normal).of(1000 / normal)
    expect(said("teeth")).to match(%r{\A1 tooth period, [\d.]+ Hz, [\d.]+ (km/h|turns/s)\z})
  end

  it "moves with the finger: a tap sets the cursor, a pull moves the window" do
    sprung_ring
    click_button "Zoom in"
    from = in_view.first
    before = said("a")
    box =
      page.evaluate_script(
        "(() => { const b = document.querySelector('.u-over').getBoundingClientRect(); return [b.left, b.top, " \
          "b.width, b.height]; })()"
      )
    x = box[0] + (box[2] * 0.8)
    y = box[1] + (box[3] / 2)
    mouse = page.driver.browser.mouse
    mouse.click(x: x, y: y)
    expect(page).to have_no_css("[data-out=a]", text: before, exact_text: true)
    mouse.move(x: x - 120, y: y).down.move(x: x - 320, y: y, steps: 4).up
    expect(in_view.first).to be > from
  end

  it "goes round the ring by keys and by a tap, and says each tooth's period and amplitude" do
    sprung_ring
    find("[data-ring]").execute_script("this.focus()")
    type("n")
    expect(page).to have_css("[data-ring-out]", text: /Tooth 21: period 1\.[56]\d*, amplitude [\d.]+\. wide gap/)
    type(:right, :right)
    expect(page).to have_css("[data-ring-out]", text: /Tooth 23: period (1\.0|0\.9)\d*, amplitude [\d.]+\z/)
    find("[data-tooth='5'] .ring-sector").trigger("pointerdown")
    expect(page).to have_css("[data-ring-out]", text: /Tooth 5:/).and have_css(".ring-place.shown", count: 1)
  end

  it "shows where a finding is, and tells what is in view in figures" do
    sprung_ring
    whole = span
    click_button "Show"
    expect(span).to be < whole / 3
    find("summary", text: "Values in view").click
    rows = page.all("[data-rows='0'] tr")
    expect(rows.size).to eq(24)
    expect(rows[12].all("td").map(&:text)).to all(match(/\A(–|-?[\d.]+)\z/))
  end

  it "a log whose columns nobody knows is mapped, and the next one is read at once" do
    log =
      write(
        "yard.csv",
        "time,Value 1,Value 2,Value 3,Value " \
          "4\n#{(0..200).map { |i| [i * 0.1, 20, 20, 20, i.between?(60, 70) ? 0 : 20].join(",") }.join("\n")}\n"
      )
    hand_in(log, kind: "Live data of a scan tool")
    expect(page).to have_content("Column mapping")
    ["wheel front left", "wheel front right", "wheel rear left", "wheel rear right"].each_with_index do |name, i|
      select name, from: "columns[#{i}]"
    end
    click_button "Read again and save mapping"
    expect(page).to have_content("The rear right wheel drops out once")
    expect(page).to have_css(".viewer[data-ready]")
    click_link "All captures of this job"
    hand_in(log, kind: "Live data of a scan tool")
    expect(page).to have_content("The rear right wheel drops out once")
  end

  it "a file that is none is refused in words, and what was chosen stands" do
    hand_in(File.join(Gadwall::ROOT, "README.md"), teeth: "44")
    expect(page).to have_css(".field-error", text: /line \d+, column \d+.*Expected/)
    expect(page).to have_field("teeth", with: "44").and have_select("circuit", selected: "rear right")
  end

  it "a long one is cancelled on its way; another is followed to its end" do
    stub_const("Web::AnalysisQueue::SLOW_BYTES", 1000)
    times, values = ToneRing.new(48, missing: [9]).active(->(_) { 1.5 }, 3.0, 20_000)
    path =
      write("long.csv", "Time (s),CH1 (V)\n#{times.zip(values).map { |time, volt| "#{time},#{volt}" }.join("\n")}\n")
    hand_in(path)
    expect(page).to have_css(".analysis progress")
    click_button "Cancel"
    expect(page).to have_no_css(".analysis").and have_content("No capture yet.")
    hand_in(path)
    expect(page).to have_css(".viewer[data-ready]", wait: 20)
    expect(page).to have_content("missing on the ring")
  end
end
