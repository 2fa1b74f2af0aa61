# frozen_string_literal: true

require "web_helper"

# What no form of ours would send, at every address: answered with a page of ours and its headers, never with 500.
RSpec.describe "Hostile requests", :web do
  include WebHelp

  PLACES = { "number" => "J101", "id" => "1", "circuit" => "front_left", "step" => "fit.1", "splat" => "x" }.freeze
  # Names of fields that some form has, and of none.
  FIELDS = %w[
    test
    reading
    result
    entry
    reason
    symptoms
    codes
    answered
    customer
    complaint
    option
    signed_by
    words
    item
    number
    id
    circuit
    columns
    kind
    file
    teeth
    back
    name
    seen
    form_token
    authenticity_token
    page
    q
    wires
    connectors
    unheard
  ].freeze
  BOUNDARY = "----spec"

  def self.addresses
    Web::App.routes.flat_map do |verb, routes|
      routes.map { |pattern, *| [verb, pattern.to_s] }.reject { |pair| pair[0] == "HEAD" }
    end
  end

  def self.path(pattern)
    pattern.gsub(/:(\w+)/) { PLACES.fetch(Regexp.last_match(1)) }
  end

  def filled(value)
    FIELDS.to_h { |name| [name, value] }
  end

  def query(fields)
    Rack::Utils.build_nested_query(fields)
  end

  # {what it is: [body, content type]}
  def bodies
    form = "application/x-www-form-urlencoded"
    {
      "nothing" => ["", form],
      "empty texts" => [query(filled("")), form],
      "ordinary words" => [query(filled("front left")), form],
      "a very large number" => [query(filled("9" * 40)), form],
      "markup" => [query(filled("<script>alert(1)</script>'\"")), form],
      "lists" => [query(filled(%w[a b])), form],
      "lists of lists" => [FIELDS.map { |name| "#{name}[][]=a" }.join("&"), form],
      "fields in fields" => [query(filled({ "a" => { "b" => "c" } })), form],
      "deep nesting" => ["reading#{"[a]" * 200}=1", form],
      "a field both text and list" => ["reading=1&reading[]=2&reading[a]=3", form],
      "no UTF-8" => [FIELDS.map { |name| "#{name}=%ff%fe" }.join("&"), form],
      "no UTF-8 in a name" => ["%ff=1&reading=1", form],
      "NUL" => [FIELDS.map { |name| "#{name}=a%00b" }.join("&"), form],
      "a broken escape" => ["reading=%zz&test=%", form],
      "five thousand fields" => [Array.new(5000) { |n| "f#{n}=1" }.join("&"), form],
      "a long name" => ["#{"n" * 70_000}=1", form],
      "a long text" => [query(filled("x" * 20_000)), form],
      "another charset" => ["reading=1", "#{form}; charset=klingon"],
      "UTF-16 said" => ["\xfe\xff\x00r".b, "#{form}; charset=utf-16"],
      "a body that is JSON" => ["{\"reading\": [1]}", "application/json"],
      "multipart without boundary" => %w[x multipart/form-data],
      "multipart cut short" => ["--#{BOUNDARY}\r\nContent-Dis", "multipart/form-data; boundary=#{BOUNDARY}"],
      "multipart with a file where a text is" => [files, "multipart/form-data; boundary=#{BOUNDARY}"],
      "multipart of another charset" => [odd_part, "multipart/form-data; boundary=#{BOUNDARY}"]
    }
  end

  def files
    part =
      FIELDS.map do |name|
        "--#{BOUNDARY}\r\nContent-Disposition: form-data; name=\"#{name}\"; filename=\"a\xff.csv\"\r\n" \
          "Content-Type: text/csv\r\n\r\nTime,CH1\r\n".b
      end
    "#{part.join("\r\n")}\r\n--#{BOUNDARY}--\r\n".b
  end

  def odd_part
    "--#{BOUNDARY}\r\nContent-Disposition: form-data; name=\"reading\"\r\nContent-Type: text/plain; charset=klingon" \
      "\r\n\r\n1\r\n--#{BOUNDARY}--\r\n"
  end

  def self.sound?(response)
    response.status < 500 && response.headers["content-security-policy"].to_s.include?("default-src 'none'") &&
      response.headers["x-content-type-options"] == "nosniff"
  end

  before { one_job }

  # One application for all examples of this file: what is refused changes nothing.
  def app
    WalkApplication.kept ||= WebHelp.application
  end

  # Where the one application is kept.
  module WalkApplication
    class << self
      attr_accessor :kept
    end
  end

  def one_job
    sign_in
    job(codes: "C0031-13 current") if workshop.jobs.none?
  end

  # A path as it comes in at the door, whatever a client of ours would make of it.
  def ask(path)
    custom_request("GET", "/", {}, "PATH_INFO" => path)
    last_response
  end

  # The session's own token, so that the field guards are passed and the handler is reached.
  def with_token(body, type)
    return body unless type.start_with?("application/x-www-form-urlencoded") && !body.include?("authenticity_token")

    token = guards("/jobs/J101/codes", "/jobs/J101/codes")["authenticity_token"]
    [body, "authenticity_token=#{Rack::Utils.escape(token)}"].reject(&:empty?).join("&")
  end

  addresses.each do |verb, pattern|
    it "gets an answer with headers from #{verb} #{pattern}, whatever is sent" do
      path = self.class.path(pattern)
      wrong =
        bodies.filter_map do |name, (body, type)|
          if verb == "GET"
            custom_request("GET", path, {}, "QUERY_STRING" => body)
          else
            custom_request(verb, path, {}, :input => with_token(body, type), "CONTENT_TYPE" => type)
          end
          name unless self.class.sound?(last_response)
        end
      expect(wrong).to eq([])
    end
  end

  it "answers odd addresses, names in them and other methods with a page" do
    odd = %w[
      /jobs/%ff
      /jobs/%00
      /jobs/J101/%ff
      /%2e%2e/%2e%2e/etc/passwd
      /jobs/../../x
      //jobs
      /jobs/J9999999999999999999
    ]
    odd += ["/jobs/#{"J" * 5000}", "/jobs/J101/captures/#{"9" * 30}", "/jobs/J101/repair/%ff", "/jobs/%F0%9F%9A%97"]
    statuses = odd.to_h { |path| [path, ask(path).status] }
    expect(statuses.values.uniq - [400, 404]).to eq([]), statuses.to_s
    expect(odd.all? { |path| self.class.sound?(ask(path)) }).to be(true)
    %w[PUT DELETE PATCH OPTIONS TRACE].each do |verb|
      custom_request(verb, "/jobs/J101/readings", {}, {})
      expect([verb, last_response.status, self.class.sound?(last_response)]).to eq([verb, 405, true])
    end
    get "/jobs/J101/readings"
    expect(last_response.status).to eq(405)
  end

  it "answers a foreign name and a foreign page, and serves neither" do
    get "/", {}, "HTTP_HOST" => "evil.test"
    expect([last_response.status, self.class.sound?(last_response), text]).to match([421, true, /Unknown host/])
    post "/jobs/J101/notes", { "text" => "x" }, "HTTP_ORIGIN" => "http://evil.test"
    expect([last_response.status, self.class.sound?(last_response), text]).to match([403, true, /another site/])
    get "/", {}, "HTTP_HOST" => "[::1]:9292"
    expect(last_response.status).to eq(200)
  end

  it "left the job as it was" do
    get "/jobs/J101/trace"
    expect(last_response.status).to eq(200)
  end
end
