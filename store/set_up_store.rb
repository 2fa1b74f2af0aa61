# frozen_string_literal: true

require "json"

module Store
  # Which of the workshop's tools could run which set-up routine on which vehicle: read from the jobs' logs.
  class SetUpStore
    # vehicle: name of the vehicles; runs, worked: how often; code: the last negative response that refused it, or nil.
    Known = Struct.new(:routine, :tool, :vehicle, :runs, :worked, :code, keyword_init: true)
    MOST = 200

    def initialize(database)
      @database = database
    end

    # Of vehicles with the same name, in other jobs: Array of Known. record: Gadwall::Job::Record.
    def like(record)
      runs(record)
        .group_by { |run| run.values_at("routine", "tool") }
        .map { |(routine, tool), list| known(routine, tool, list, record) }
    end

    private

    def known(routine, tool, list, record)
      Known.new(
        routine: routine,
        tool: tool,
        vehicle: record.vehicle_name,
        runs: list.size,
        worked: list.count { |run| run["result"] == "worked" },
        code: list.filter_map { |run| run["code"] }.last
      ).freeze
    end

    def runs(record)
      @database[:entries]
        .join(:jobs, id: Sequel[:entries][:job_id])
        .where(Sequel[:entries][:kind] => "set_up")
        .where(Sequel.function(:json_extract, Sequel[:jobs][:vehicle], "$.name") => record.vehicle_name)
        .exclude(Sequel[:jobs][:id] => record.id)
        .order(Sequel[:entries][:id])
        .limit(MOST)
        .select_map(Sequel[:entries][:payload])
        .map { |payload| JSON.parse(payload) }
    end
  end
end
