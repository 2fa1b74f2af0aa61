# frozen_string_literal: true

require "browser_helper"

# Every main view, in either theme, by the rules of axe-core (WCAG 2.2 A and AA, and its best practices).
RSpec.describe "For everybody", :browser do
  AXE = File.read(File.expand_path("../support/vendor/axe.min.js", __dir__)).freeze
  # Everything in the light theme; in the dark one what a theme can change.
  RULES = { "light" => "{}", "dark" => "{ runOnly: ['color-contrast'] }" }.freeze
  ASK =
    "axe.run(document, %s).then((result) => arguments[0](result.violations.map((each) => " \
      "`${each.id}: ${each.nodes.map((node) => node.target.join(' ')).join(' | ')}`)))"

  def self.demo
    @demo ||= WebHelp.application.tap { |app| Demo::Workshop.load(app.workshop) }
  end

  before { Capybara.app = self.class.demo }

  # A page is loaded once and looked at in either theme, as its own button swaps them.
  def violations(path)
    visit path
    page.execute_script(AXE)
    RULES.flat_map do |theme, rules|
      page.execute_script("document.documentElement.dataset.theme = arguments[0]", theme)
      page.evaluate_async_script(format(ASK, rules)).map { |each| "#{path}, #{theme}: #{each}" }
    end
  end

  def paths
    captures = self.class.demo.workshop.captures
    capture =
      self.class.demo.workshop.jobs.all.filter_map { |job| captures.for_job(job).first&.then { |each| [job, each] } }
    %w[
      /
      /jobs/new
      /jobs/closed
      /person
      /nothing-here
      /jobs/J103/codes
      /jobs/J103/trace
      /jobs/J109/trace
      /jobs/J112/trace
      /jobs/J103/vehicle
      /jobs/J103/vehicle?circuit=front_right
      /jobs/J105/decide
      /jobs/J102/repair
      /jobs/J114/repair
      /jobs/J113/parameters
      /jobs/J105/customer
      /jobs/J115/proof
      /settings
      /jobs/J101/report
      /jobs/J101/repair
      /jobs/J103/captures
      /jobs/J103/pads
      /day
      /sums?sum=slope_hold&mass=1800&grade=20&tyre=205/55R16&wheels=2&friction=0.38&radius=120
      /practice
    ] + capture.first(4).map { |job, each| "/jobs/#{job.number}/captures/#{each.id}" }
  end

  # The bench of an exercise, and how one went that was handed back at once.
  def practice_paths
    visit "/practice"
    first(".exercise").click
    number = page.current_path[/P\d+/]
    visit "/jobs/#{number}/bench"
    find(".bench-fit summary").click
    find("#act-finish").click
    page.assert_selector ".bench-ended"
    ["/jobs/#{number}/bench", "/jobs/#{number}/debrief", "/jobs/#{number}/trace"]
  end

  it "finds nothing on any main view, in the light theme and in the dark one" do
    sign_in
    expect((paths + practice_paths).flat_map { |path| violations(path) }.join("\n")).to eq("")
  end
end
