# frozen_string_literal: true

module Gadwall
  module Observations
    # A scan of the vehicle before the repair. answered: {module id => did it answer}, of those that were noted; true or
    # false alone speaks of the anti-lock module. responded, expected: how many modules in all did, and should by the
    # build list or an earlier scan; nil where nobody counted; strangers: how many did not respond whose names mean no
    # module that is known here.
    Scan =
      Struct.new(:seq, :answered, :codes, :responded, :expected, :strangers, keyword_init: true) do
        # How many modules are missing that nobody has named; 0 where nobody counted.
        def unnamed_missing
          return 0 unless responded && expected

          [expected - responded - modules.values.count(false) - strangers.to_i, 0].max
        end

        # {module id => did it answer}.
        def modules
          answered.is_a?(Hash) ? answered : { "abs" => answered }.compact
        end

        # true, false, or nil where it was not noted.
        def answers(module_id)
          modules[module_id]
        end

        # Would a code of this module stand in the scan? Not when it did not answer, nor when others were asked and it
        # was not. What hangs on a bus (no module of its own) is told by whoever answers.
        def asked?(module_id)
          return true if module_id.nil? || modules.empty?

          modules.fetch(module_id, false)
        end
      end
  end
end
