# frozen_string_literal: true

require "date"
require "fileutils"

module Store
  # Copies of the shop, one a day: the last seven days, a copy of each of four weeks, and of each of twelve months stay.
  class Copies
    DAYS = 7
    WEEKS = 4
    MONTHS = 12
    NAME = /\Agadwall-(\d{4}-\d{2}-\d{2})\.gadwall\z/
    OLD_DAYS = 2 # a last good copy older than this is told

    # path: of the database; folder: where copies go.
    def initialize(path, folder)
      @path = path
      @folder = folder
    end

    attr_reader :folder

    # Makes today's copy where there is none, and takes away what need not be kept. now: Time. Returns whether one was
    # made. Raises Backup::Failed.
    def make(now)
      day = now.to_date
      return false if dates.include?(day)

      FileUtils.mkdir_p(@folder, mode: 0o700)
      Backup.write(@path, file(day), made_at: now.utc.strftime("%FT%TZ"))
      (dates - Copies.kept(dates)).each { |each| FileUtils.rm_f(file(each)) }
      true
    end

    # Dates of the copies that there are, oldest first.
    def dates
      Dir.children(@folder).filter_map { |name| (text = name[NAME, 1]) && Date.iso8601(text) }.sort
    rescue SystemCallError, Date::Error
      []
    end

    # Is the last good copy too old? today: Date.
    def overdue?(today)
      dates.empty? || today - dates.last > OLD_DAYS
    end

    # Which of some dates stay: the last days, the last of each week and of each month, so many of them. dates: of
    # copies, oldest first.
    def self.kept(dates)
      last = ->(key, count) { dates.group_by(&key).values.map(&:last).last(count) }
      (
        dates.last(DAYS) + last[->(date) { [date.cwyear, date.cweek] }, WEEKS] +
          last[->(date) { [date.year, date.month] }, MONTHS]
      ).uniq.sort
    end

    private

    def file(day)
      File.join(@folder, "gadwall-#{day.iso8601}.gadwall")
    end
  end
end
