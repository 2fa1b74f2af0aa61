# frozen_string_literal: true

require "digest"

module Web
  # Reads jobs back: store and core joined. A log only grows, so a job and its length name its contents, and what was
  # computed from them holds for as long as it is kept here. What is kept of vehicles is knowledge of how they are
  # wired, never of a job.
  class JobLoader
    DOSSIERS = 24
    SYSTEMS = 24

    attr_reader :models

    # jobs, entries, summaries, closed_cases, shops: stores; models: Gadwall::Vehicle::ModelCache.
    def initialize(jobs, entries, summaries, closed_cases, shops, models: Gadwall::Vehicle::ModelCache.new)
      @shop = shops.shop
      @jobs = jobs
      @entries = entries
      @summaries = summaries
      @closed_cases = closed_cases
      @models = models
      @dossiers = Gadwall::Recent.new(DOSSIERS)
      @systems = Gadwall::Recent.new(SYSTEMS)
    end

    # number: text such as "J101". Returns a Gadwall::Job::Dossier. Raises Store::NotFound.
    def dossier(number)
      of_record(@jobs.find(number))
    end

    # The same by the job's id.
    def by_id(id)
      of_record(@jobs.by_id(id))
    end

    # The Gadwall::Vehicle::System of a sheet. vehicle: Hash. Raises Gadwall::InputError.
    def system(vehicle)
      @systems.fetch(Digest::SHA256.digest(JSON.generate(vehicle))) do
        Gadwall::Vehicle::System.build(Gadwall::Vehicle::Sheet.new(vehicle), models: @models)
      end
    end

    # What the workshop charges: Gadwall::Decision::Shop.
    attr_reader :shop

    # Takes on what the workshop charges from now on.
    def shop=(shop)
      @shop = shop
      @dossiers = Gadwall::Recent.new(DOSSIERS)
    end

    # Lets go of every job: they are read again.
    def forget
      @dossiers.clear
    end

    # Keeps a dossier that an act made, so that the next page need not read it again.
    def keep(dossier)
      @dossiers.keep(key(dossier.record, dossier.last_seq), dossier)
    end

    # A dossier of a job that was just taken in. record: Gadwall::Job::Record; entries: Array of Entry.
    def new_dossier(record, entries)
      dossier_of(record, entries)
    end

    private

    def of_record(record)
      seq = @entries.last_seq(record)
      @dossiers.fetch(key(record, seq)) do
        head = @summaries.head(record, seq, Gadwall::Diagnosis.engine)
        dossier_of(record, @entries.for_job(record), head: head)
      end
    end

    def key(record, seq)
      [record.id, seq]
    end

    def dossier_of(record, entries, head: nil)
      system = system(record.vehicle)
      templates = system.circuits.map { |circuit| circuit.harness.id }.uniq
      counts = @closed_cases.counts(templates, before: record.taken_in_at)
      log = Gadwall::Job::Log.new(entries, system, closed_case_counts: counts)
      Gadwall::Job::Dossier.new(record, log, shop: @shop, head: head)
    end
  end
end
