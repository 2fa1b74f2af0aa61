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
