# frozen_string_literal: true

require "net/http"
require "nokogiri"

# A browser of the bench: keeps its cookies, fills in forms, measures.
class Client
  # seconds: how long the answer took; status; body.
  Answer =
    Struct.new(:seconds, :status, :body, :headers, keyword_init: true) do
      def document
        Nokogiri.HTML5(body)
      end
    end

  def initialize(port)
    @http = Net::HTTP.new("127.0.0.1", port)
    @http.read_timeout = 60
    @http.start
    @cookies = {}
  end

  def get(path, htmx: false)
    send_out(Net::HTTP::Get.new(path), htmx)
  end

  # fields: {name => text}.
  def post(path, fields, htmx: false)
    request = Net::HTTP::Post.new(path)
    request.set_form_data(fields)
    send_out(request, htmx)
  end

  # The hidden fields of the first form on a page that posts to `action`.
  def hidden(answer, action)
    form = answer.document.css("form").find { |each| each["action"] == action } or raise "no form for #{action}"
    form.css("input[type=hidden]").to_h { |input| [input["name"], input["value"]] }
  end

  def sign_in(name)
    post("/person", hidden(get("/"), "/person").merge("name" => name))
  end

  # Checks a vehicle in by the page's form. sheet: Hash of which the form's answers are taken. Returns the job's number.
  def check_in(sheet, customer:)
    answers = sheet.select { |_, value| value.is_a?(String) }.except("sensors")
    given = { "customer" => customer, "complaint" => "lamp", "front" => "active", "rear" => "active" }
    answer = post("/jobs", hidden(get("/jobs/new"), "/jobs").merge(answers, given))
    answer.headers["location"].to_s[/J\d+/] or raise "check-in: #{answer.status} #{answer.body[0, 200]}"
  end

  # Saves a pre-scan with one DTC. Returns its Answer.
  def pre_scan(number)
    path = "/jobs/#{number}/codes"
    post(path, hidden(get(path), path).merge("codes" => "C0031-13 current", "answered" => "yes"))
  end

  def close
    @http.finish
  end

  private

  def send_out(request, htmx)
    request["Cookie"] = @cookies.map { |name, value| "#{name}=#{value}" }.join("; ")
    request["HX-Request"] = "true" if htmx
    from = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    response = @http.request(request)
    took = Process.clock_gettime(Process::CLOCK_MONOTONIC) - from
    response.get_fields("set-cookie").to_a.each { |line| @cookies.store(*line.split(";").first.split("=", 2)) }
    Answer.new(seconds: took, status: response.code.to_i, body: response.body.to_s, headers: response)
  end
end
