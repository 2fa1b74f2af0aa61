# frozen_string_literal: true

require "sinatra/base"
require "rack/protection"
require "rack/tempfile_reaper"
require "securerandom"

# The thin web layer: a handler reads input, asks an act of the core, makes a page and renders it.
module Web
  # Nothing that a form of ours would send: answered with 400 and the application's page.
  class BadInput < StandardError
  end

  class << self
    # The Zeitwerk::Loader of app/.
    attr_accessor :loader
  end
end

# One file, one constant: Web::Pages::TracePage is app/pages/trace_page.rb.
Web.loader =
  Zeitwerk::Loader.new.tap do |loader|
    loader.push_dir(__dir__, namespace: Web)
    loader.ignore(%w[boot.rb web.rb start_process.rb views].map { |name| File.join(__dir__, name) })
    loader.setup
  end

module Web
  # Settings, middleware, error pages, and the visible list of areas.
  class App < Sinatra::Base
    AREAS = [
      Routes::Person,
      Routes::Start,
      Routes::Intake,
      Routes::Jobs,
      Routes::Vehicle,
      Routes::Codes,
      Routes::Captures,
      Routes::Capture,
      Routes::Trace,
      Routes::Decide,
      Routes::Repair,
      Routes::Parameters,
      Routes::Proof,
      Routes::Report,
      Routes::Settings,
      Routes::Practice,
      Routes::Bench,
      Routes::Interface,
      Routes::Sums,
      Routes::Day,
      Routes::Pads
    ].freeze
    PRACTICE = "P" # before the numbers of exercises
    SOLUTIONS = 40 # of exercises that are kept
    LEAST_KEY_LETTERS = 64 # of the session cookie's key, as Rack asks for
    MOST_BYTES = 1_000_000
    MOST_CAPTURE_BYTES = 120_000_000

    # Where files are taken: bytes of a body.
    LARGER = {
      %r{\A/jobs/\w+/captures\z} => MOST_CAPTURE_BYTES,
      %r{\A/jobs/\w+/proof/log\z} => Routes::Proof::MOST_LOG_BYTES + MOST_BYTES
    }.freeze

    set :root, __dir__
    set :first_start, false # is an empty workshop asked what it needs to begin?
    set :views, File.join(__dir__, "views")
    set :public_folder, File.expand_path("../public", __dir__)
    set :static_cache_control, [:public, { max_age: 3600 }]
    set :erb, escape_html: true, trim: "-"
    set :reload_templates, false # compiled once, whatever APP_ENV says
    set :show_exceptions, false
    set :raise_errors, false
    set :dump_errors, false
    set :absolute_redirects, false
    set :host_authorization, {} # Guards::HostGuard answers, with a page of ours
    set :protection, false # the guards do what a local page needs: host, origin, policy, and a token in each form
    set :method_override, false
    disable :logging

    helpers Helpers::Words, Helpers::Quantities, Helpers::Forms, Helpers::KeptPage, Helpers::Acting, Helpers::Problems
    register Helpers::ErrorPages
    AREAS.each { |area| register area }

    # path: of the database, or nil for one in memory; hosts: names beside loopback that are served; warm: renew
    # summaries and take up analyses in the background; more: models and clock of Workshop, and check: Store::Check that
    # has begun. Returns a Rack application.
    def self.for_database(path, secret: secret_beside(path), hosts: [], warm: false, check: nil, **more)
      models = path && Gadwall::Vehicle::ModelCache.new(place: Store::TableFolder.new("#{path}-tables"))
      pages = path && Store::PageFolder.new("#{path}-pages")
      known = { folder: path && "#{path}-analyses", models: models, pages: pages, **more }.compact
      Gadwall::Repair::RuleBase.of(Gadwall::Knowledge.catalogue) # a wrong rule never reaches a job
      workshop = Workshop.new(Store.open(path, check: check), **known)
      workshop.begin_background_work if warm
      practice = practice_beside(path, workshop, more.slice(:clock))
      Class.new(self) do
        set :workshop, workshop
        set :practice, practice
        set :days, DayDesk.new(workshop, workshop.days)
        set :solutions, Gadwall::Recent.new(SOLUTIONS)
        set :session_secret, secret
        set :sessions, same_site: :lax, httponly: true, key: "gadwall"
        use Guards::RequestLog
        use Rack::TempfileReaper # what was handed in is gone when it is answered
        use Guards::Headers
        use Guards::HostGuard, hosts
        use Guards::BodyLimit, MOST_BYTES, LARGER
        use Guards::ReadableInput
      end
    end

    # Practice has a database of its own: nothing of it is ever among the workshop's jobs.
    def self.practice_beside(path, workshop, clock = {})
      beside = path && "#{path}-practice"
      models = workshop.loader.models
      folder = beside && "#{beside}-analyses"
      Workshop.new(Store.open(beside), folder: folder, models: models, prefix: PRACTICE, **clock)
    end

    # The key of the session cookie is made once and kept beside the database.
    def self.secret_beside(path)
      return SecureRandom.hex(64) unless path

      file = "#{path}.key"
      kept = File.exist?(file) ? File.read(file).strip : ""
      return kept if kept.length >= LEAST_KEY_LETTERS

      # A key that was cut short signs nobody's session; all that a new one costs is to say who is at the bench again.
      SecureRandom
        .hex(64)
        .tap do |key|
          File.write(file, key, perm: 0o600)
          File.chmod(0o600, file)
        end
    end

    before { admit }
    after { workshop.keep_computed if @dossier }

    helpers do
      # The record that the address speaks of: the workshop's, or that of the practice bay.
      def workshop
        practice? ? settings.practice : settings.workshop
      end

      # Is the job of the address an exercise?
      def practice?
        params["number"].to_s.start_with?(PRACTICE)
      end
    end
  end
end
