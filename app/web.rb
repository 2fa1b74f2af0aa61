# frozen_string_literal: true

require "sinatra/base"
require "rack/protection"
require "securerandom"

# The thin web layer: a handler reads input, asks the core or the store, makes a page and renders it.
module Web; end

Dir[File.join(__dir__, "{svg,helpers,forms,pages}", "*.rb")].sort.each { |file| require file }
require_relative "body_limit"
require_relative "capture_works"
require_relative "desk"
Dir[File.join(__dir__, "routes", "*.rb")].sort.each { |file| require file }

module Web
  # Settings, middleware, error pages, and the visible list of areas.
  class App < Sinatra::Base
    AREAS = [Routes::Intake, Routes::Bay, Routes::Vehicle, Routes::Codes, Routes::Captures, Routes::Capture, 
Routes::Trace, Routes::Decide, Routes::Repair, Routes::Proof, Routes::Report].freeze
    POLICY = "default-src 'none'; script-src 'self'; style-src 'self'; font-src 'self'; img-src 'self'; connect-src 'self'; form-action 'self'; frame-ancestors 'none'; base-uri 'none'"
    MOST_BYTES = 1_000_000
    MOST_CAPTURE_BYTES = 120_000_000

    set :root, __dir__
    set :views, File.join(__dir__, "views")
    set :public_folder, File.expand_path("../public", __dir__)
    set :static_cache_control, [:public, { max_age: 3600 }]
    set :erb, escape_html: true, trim: "-"
    set :show_exceptions, false
    set :raise_errors, false
    set :dump_errors, false
    set :host_authorization, {}
    set :protection, except: %i[http_origin session_hijacking remote_token]
    disable :logging

    use BodyLimit, MOST_BYTES, %r{\A/jobs/\w+/captures\z} => MOST_CAPTURE_BYTES
    helpers Helpers::Words, Helpers::Forms, Helpers::Saving
    AREAS.each { |area| register area }

    # path: of the database, or nil for one in memory. Returns a Rack application.
    # warm: compute the first pages in the background.
    def self.for_database(path, secret: secret_beside(path), warm: false)
      desk = Desk.new(Store.open(path))
      Thread.new { desk.warm_up } if warm
      Class.new(self) do
        set :desk, desk
        set :session_secret, secret
        set :sessions, same_site: :lax, httponly: true, key: "gadwall"
        use Rack::Protection::AuthenticityToken
      end
    end

    # The key of the session cookie is made once and kept beside the database.
    def self.secret_beside(path)
      return SecureRandom.hex(64) unless path

      file = "#{path}.key"
      File.write(file, SecureRandom.hex(64), perm: 0o600) unless File.exist?(file)
      File.read(file)
    end

    before do
      headers "Content-Security-Policy" => POLICY, "X-Content-Type-Options" => "nosniff", 
"Referrer-Policy" => "same-origin", "Cache-Control" => "no-store"
    end

    error(Store::NotFound) { |error| problem(404, "No such job", error.message) }
    error(Gadwall::InputError) { |error| problem(422, "That cannot be used", error.message) }
    error(Store::Conflict) { |error| problem(409, "Someone else wrote first", error.message) }
    not_found { problem(404, "No such page", "The bay list shows every job.") }
    error do
      warn "#{env['sinatra.error'].class}: #{env['sinatra.error'].message}\n  #{Array(env['sinatra.error'].backtrace).first(12).join("\n  ")}"
      problem(500, "Something went wrong here", 
"Nothing was written. Go back and try again; the text is in the server's log.")
    end

    helpers do
      def desk
        settings.desk
      end

      def problem(status, title, text)
        status status
        erb :problem, locals: { title: title, text: text }, layout: :layout
      end
    end
  end
end
