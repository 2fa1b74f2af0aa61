# frozen_string_literal: true

require "web_helper"

# The report's PDF prints the letters that a customer's name is written with, read back by poppler.
RSpec.describe "Letters of the report", :web do
  def pdf_text(number)
    get "/jobs/#{number}/report.pdf"
    expect([last_response.status, last_response.content_type]).to match([200, %r{application/pdf}])
    Tempfile.create(%w[report .pdf]) do |file|
      file.binmode
      file.write(last_response.body)
      file.flush
      `pdftotext -layout #{file.path} - 2>/dev/null`.unicode_normalize(:nfkc).gsub(
        /[\s\u200E\u200F\u202A-\u202E]+/,
        " "
      )
    end
  end

  {
    "Cyrillic" => "Мария Ивановна Лужкова",
    "Greek" => "Ελένη Παπαδοπούλου",
    "Thai" => "สมชาย ใจดี",
    "Chinese" => "田中 美咲",
    "Korean" => "김민수",
    "Japanese kana" => "さくら タナカ",
    "Polish and Turkish" => "Łucja Żółć, Gökçe Işık",
    "typographic quotes" => "„Reed“ ‘Mill’ ‹Quay› – it’s 5′ 3″ …"
  }.each do |script, name|
    it "prints #{script}" do
      number = job(customer: name, complaint: "lamp on, said #{name}")
      read = pdf_text(number)
      expected = name.sub("…", "...").unicode_normalize(:nfkc)
      expect(read.delete(" ")).to include(expected.delete(" ")).and include("said#{expected.delete(" ")}")
      expect(read).not_to include("Not printed")
    end
  end

  # Right to left: drawn so that a reader, and poppler, reads them in their own order.
  { "Hebrew" => "דנה כהן", "Arabic" => "ليلى محمود" }.each do |script, name|
    it "prints #{script}, right to left" do
      number = job(customer: name, complaint: "#{name} 2024")
      letters = pdf_text(number).scan(/[\p{Hebrew}\p{Arabic}]/)
      expect(letters.tally.slice(*name.delete(" ").chars)).to include(*name.delete(" ").chars.uniq)
      expect(pdf_text(number)).not_to include("Not printed")
    end
  end

  it "says what it cannot print, and drops nothing unseen" do
    number = job(customer: "A. Reed", complaint: "lamp \u{1F6A8} on, \u{10900}")
    read = pdf_text(number)
    expect(read).to include("lamp □ on").and include("Not printed").and include("U+1F6A8, U+10900")
  end
end

RSpec.describe Web::Pdf::Letters do
  subject(:letters) { described_class.new { true } }

  {
    "plain" => "plain",
    "שלום (12.5)" => "םולש (12.5)",
    "J101 דנה ok" => "J101 הנד ok",
    "a\u200Bb\u202Ec" => "abc",
    "e\u0301" => "é"
  }.each do |text, drawn|
    it("draws #{text.inspect} as #{drawn.inspect}") { expect(letters.printable(text)).to eq(drawn) }
  end

  it "joins Arabic letters by their place in the word" do
    expect(letters.printable("بب").chars).to eq(%w[ﺐ ﺑ])
  end
end
