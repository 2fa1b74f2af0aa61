# frozen_string_literal: true

require "sequel"
require "gadwall"

# What is kept: jobs and their logs, in SQLite. Returns and takes core values; computes nothing.
module Store
  # The log moved on since the page was made: someone else wrote to the same job.
  class Conflict < Gadwall::Error
    # Array of Gadwall::Job::Entries::Entry: what was written meanwhile.
    attr_reader :entries

    def initialize(entries)
      @entries = entries
      count = "#{entries.size} #{entries.size == 1 ? "entry" : "entries"}"
      super(
        "Another browser saved to this job meanwhile (#{count}). What you entered is kept here: check what changed, " \
          "then send it again."
      )
    end
  end

  # A form's token came again with other content: it is not the form that was taken.
  class OtherForm < Gadwall::Error
    def initialize
      super(
        "This form was sent before with other content, and that was taken. What you entered now is kept here: look " \
          "at the job, then send it again if it is to be added."
      )
    end
  end

  # No job of that number, no template of that name.
  class NotFound < Gadwall::Error
    def initialize(number, kind: "job")
      super("There is no #{kind} #{number.to_s[0, 20]}. The job list shows every job.")
    end
  end
end

require_relative "check"
require_relative "database"
require_relative "lock"
require_relative "job_store"
require_relative "entry_store"
require_relative "act_store"
require_relative "summary_store"
require_relative "version_folder"
require_relative "table_folder"
require_relative "page_folder"
require_relative "closed_case_store"
require_relative "code_word_store"
require_relative "template_store"
require_relative "capture_store"
require_relative "live_column_store"
require_relative "analysis_store"
require_relative "settings"
require_relative "shop_store"
require_relative "set_up_store"
require_relative "parameter_store"
require_relative "stand_store"
require_relative "day_store"
require_relative "practice_result_store"
require_relative "backup"
require_relative "archive"
require_relative "copies"
