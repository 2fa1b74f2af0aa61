# frozen_string_literal: true

module Web
  module Pages
    # DTCs of the scans and what explains them, in words.
    module ExplainedCodes
      # says: what the DTC is to the leading suspects; by: of what it is a consequence, or nil; circuit: its title.
      Row = Struct.new(:word, :kind, :says, :by, :circuit, keyword_init: true)

      SAYS = {
        "cause" => "set by this fault",
        "symptom" => "consequence of",
        "history" => "history",
        "unexplained" => "unexplained",
        "not_placed" => "not placed yet",
        "elsewhere" => "open: no circuit of this sheet",
        "not_tested" => "not tested since clearing",
        "passed" => "tested, passed"
      }.freeze
      ASK = "select its circuit under Pre-scan"

      # assessment: Gadwall::Diagnosis::Assessment. Returns Array of Row.
      def self.of(assessment)
        assessment.explanations.rows.map do |row|
          id = row.code.circuit_id
          Row.new(
            word: row.code.word,
            kind: row.kind,
            says: SAYS.fetch(row.kind),
            by: row.kind == "symptom" ? row.by.join("; ") : nil,
            circuit: id ? assessment.system.circuit_named(id).title : elsewhere(row)
          )
        end
      end

      # Where a code without a circuit is followed.
      def self.elsewhere(row)
        return "DTCs of that module first" if row.code.about

        row.kind == "not_placed" ? ASK : "vehicle manufacturer's procedure"
      end
      private_class_method :elsewhere
    end
  end
end
