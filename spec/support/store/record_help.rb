# frozen_string_literal: true

# Records, summaries and entries for specs of the store.
module RecordHelp
  AT = "2026-11-24T08:00:00Z"

  def self.summary(closed: false)
    Gadwall::Job::Summary.new(
      stage: "trace",
      closed: closed,
      sentence: "Undetermined",
      next_action: "Measure",
      suspect: "",
      since: AT,
      promised_at: nil,
      waits: [],
      open_points: [],
      codes: ["C0031-13"],
      places: {
      },
      change: nil,
      trouble: nil,
      engine: "2"
    )
  end

  def self.record(customer: "A. Reed", complaint: "lamp")
    vehicle = { "name" => "van" }
    Gadwall::Job::Record.new(customer: customer, complaint: complaint, taken_in_at: AT, vehicle: vehicle)
  end

  def self.note(text = "x")
    Gadwall::Job::Entries::Note.new("text" => text)
  end
end
