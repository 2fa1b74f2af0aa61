# frozen_string_literal: true

# Signs the steps of a plan on its pages, with sound figures.
module Signing
  # A job whose sensor has been measured open. Returns its number.
  def open_sensor
    job(codes: "C0031-13 current").tap do |n|
      [%w[resistance.sensor_plug OL], %w[bias.sensor_plug 5.0]].each do |test, value|
        read(n, "front_left.#{test}", value)
      end
    end
  end

  # The same, a new sensor authorised.
  def new_sensor_authorised
    open_sensor.tap { |n| submit("/jobs/#{n}/decide", "/jobs/#{n}/decide", option: "new_sensor", signed_by: "A. Reed") }
  end

  # Fields of the form of a step, as the page sends them.
  def step_fields(step, **more)
    given = Demo::SignOff.values(step)
    { state: "done", figures: given[:figures], ticks: given[:ticks], tool: given[:tool] }.merge(more)
  end

  # Signs one step.
  def sign(number, id, **more)
    step = workshop.dossier(number).plan.row(id).step
    submit("/jobs/#{number}/repair?step=#{id}", "/jobs/#{number}/repair/#{id}", **step_fields(step, **more))
  end

  # Signs everything up to a step, or to the end of the repair.
  def sign_until(number, id = nil)
    loop do
      row = workshop.dossier(number).plan.repair.find { |each| !each.done? }
      return if row.nil? || row.id == id

      begin_wait(number, row) if row.step.wait_minutes
      sign(number, row.id)
      expect(last_response.status).to eq(303), "#{row.id}: #{text[0, 600]}"
    end
  end

  # Its timer, begun long ago.
  def begin_wait(number, row)
    long_ago = workshop.now - ((row.step.wait_minutes + 1) * 60)
    workshop.perform(number, Gadwall::Job::Acts::BeginWait, { step: row.id }, by: WebHelp::PERSON, at: long_ago) { "/" }
  end

  # Signs the steps of the proof that are open: the gate of the yard, then what belongs to the hand-over.
  def sign_proof(number)
    loop do
      row = workshop.dossier(number).plan.proof.find { |each| !each.done? }
      return if row.nil?

      submit("/jobs/#{number}/proof", "/jobs/#{number}/repair/#{row.id}", **step_fields(row.step))
      expect(last_response.status).to eq(303), "#{row.id}: #{text[0, 600]}"
    end
  end

  # Drives every leg, and every monitor ran.
  def drive(number, **more)
    submit("/jobs/#{number}/proof", "/jobs/#{number}/proof/drive", read: "1", **more)
  end
end
