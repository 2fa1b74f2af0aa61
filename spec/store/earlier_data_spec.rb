# frozen_string_literal: true

require "web_helper"

# A database and two case files that an earlier version of the program wrote (revision 84eb7d7), with what it showed of
# them, open unchanged.
RSpec.describe "Data of an earlier version", :web do
  fixtures = File.expand_path("../fixtures", __dir__)
  SHOWN = JSON.parse(File.read(File.join(fixtures, "workshop_84eb7d7.json"))).to_h { |row| [row["number"], row] }.freeze

  STATES = Gadwall::Diagnosis::Verdict::STATES

  around do |example|
    Dir.mktmpdir do |folder|
      FileUtils.cp(File.join(fixtures, "workshop_84eb7d7.sqlite3"), path = File.join(folder, "workshop.sqlite3"))
      @app = WebHelp.application(path)
      example.run
    end
  end

  # What the entry said then, field by field: a later version adds, and changes nothing.
  def kept?(entry, row)
    row.all? { |name, value| entry.to_h[name] == value || (value.nil? && entry.to_h[name].nil?) }
  end

  SHOWN.each do |number, shown|
    it "shows #{number} at the same stage, with the same evidence, verdict, plan, checks and report" do
      dossier = workshop.dossier(number)
      expect(dossier.handed_over?).to eq(shown["handed_over"])
      expect(stages(shown["stage"])).to include(dossier.stage.id)
      wrong = dossier.log.entries.zip(shown["entries"]).reject { |entry, row| kept?(entry, row) }
      expect(wrong.map { |entry, row| [entry&.to_h, row] }).to eq([])
      # What is known of faults grows, base rates are put right, and what counts as proof is stricter: what led then is
      # among the first places still, the word for it may be weaker. What is signed does not change (below).
      unless %w[intake codes].include?(shown["stage"])
        verdict = dossier.assessment.verdict
        expect(shown["verdict"]["place"].split(" + ")).to all(
          satisfy { |place| place == "none" || foremost(dossier).include?(place) }
        )
        expect(STATES.index(verdict.state)).to be <= STATES.index(shown["verdict"]["state"])
      end
      expect(dossier.decisions.map { |decision| decision.choice.id }).to eq(shown["chosen"].map { |row| row["option"] })
      expect(plan_of(dossier)).to eq(
        shown["plan"]&.map { |row| [row["id"], row["state"], row["value"].to_s, row["signed_by"]] }
      )
      next unless dossier.decided? # what is verified hangs on what was chosen

      expect(checks_of(dossier)).to eq(shown["proof"].map { |row| row.values_at("id", "done", "good") })
    end

    it "prints for #{number} what the customer was told" do
      get "/jobs/#{number}/report"
      dossier = workshop.dossier(number)
      expect(last_response.status).to eq(200)
      expect(text).to include(dossier.record.complaint).and include(dossier.record.customer)
      found = shown["verdict"]["place"].split(" + ").first
      said = dossier.decisions.first || dossier.assessment.verdict.suspect
      if dossier.decided?
        expect(said.place).to include(found)
      elsif !%w[intake codes].include?(shown["stage"]) && found != "none"
        expect(foremost(dossier)).to include(found)
      end
      shown["chosen"].each { |row| expect(text).to include(dossier.decisions.first.choice.name), row.to_s }
    end
  end

  it "opens every page of every job, and the day, of that version" do
    names = %w[codes trace vehicle captures pads decide customer repair proof report case.json]
    pages = SHOWN.keys.product(names).map { |number, name| "/jobs/#{number}/#{name}" }
    broken = ["/", "/day", "/day.ics", *pages].reject { |page| get(page).status < 400 }
    expect(broken).to eq([])
  end

  FOREMOST = 4

  def foremost(dossier)
    dossier.assessment.posterior.places.keys.first(FOREMOST)
  end

  # A job that waits for a decision may wait for one more test: what counts as proof is stricter.
  def stages(shown)
    shown == "decide" ? %w[decide trace] : [shown]
  end

  def plan_of(dossier)
    dossier.plan&.rows&.map { |row| [row.id, row.state, row.values["value"].to_s, row.signed_by] }
  end

  def checks_of(dossier)
    (dossier.proof&.items || []).map { |item| [item.id, item.done, item.good] }
  end

  it "writes on in it, and leaves what is there as it was" do
    before = entries("J103").map(&:to_h)
    perform(
      "J103",
      Gadwall::Job::Acts::TakeReading,
      test: "front_right.bias.sensor_plug",
      typed: "2.4",
      phase: "before"
    )
    expect(entries("J103").map(&:to_h).first(before.size)).to eq(before)
    expect(entries("J103").size).to eq(before.size + 1)
  end

  { "J101" => "front_left.sensor.open", "J109" => nil }.each do |number, fault|
    it "reads the case file of #{number} as it was" do
      file = Gadwall::CaseFile.parse(File.read(File.join(fixtures, "case_#{number}_84eb7d7.json")))
      shown = SHOWN[number]
      verdict = file.assess[:verdict]
      expect(verdict[:fault]).to eq(fault) if fault
      expect(verdict[:place]).to eq(shown["verdict"]["place"])
      expect(file.unread).to eq([])
    end
  end
end
