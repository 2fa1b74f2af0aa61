# frozen_string_literal: true

module Gadwall
  module Pads
    # What a sheet tells: unequal pads with their likely cause, how fast they wear, how far they go, discs.
    class Judgement
      # A finding. corner: id; says, cause: texts; mm: the difference or figure.
      Finding = Struct.new(:rule, :corner, :says, :cause, :mm, keyword_init: true)
      # How far a corner goes. worn: mm in 1000 km; left, low, high: km, high nil where it cannot be said; from: since
      # when it was reckoned.
      Left = Struct.new(:corner, :worn, :left, :low, :high, :from, keyword_init: true)
      NAMES = Vehicle::CORNERS

      # sheet: Sheet; earlier: Array of Sheet of the same vehicle, oldest first; new_at: km at which the pads were new,
      # or nil; catalogue.
      def initialize(sheet, earlier: [], new_at: nil, catalogue: Knowledge.catalogue)
        @sheet = sheet
        @earlier = earlier.select { |each| each.distance && sheet.distance && each.distance < sheet.distance }
        @new_at = new_at
        @rules = catalogue.pad_rules
      end

      # Array of Finding, by corner.
      def findings
        @findings ||= @sheet.corners.flat_map { |corner| between_pads(corner) + between_sides(corner) } + axles + discs
      end

      # {corner => Left}.
      def left
        @left ||= @sheet.corners.filter_map { |corner| left_of(corner) }.to_h { |row| [row.corner, row] }
      end

      # Corners at or below their least.
      def worn
        @sheet.corners.select { |corner| @sheet.least_lining(corner) <= @sheet.axle(corner, "least") }
      end

      private

      def finding(rule, corner, millimetres)
        row = @rules.fetch(rule)
        Finding.new(
          rule: rule,
          corner: corner,
          says: "#{NAMES.fetch(corner, corner)}: #{row["says"]} (#{plain(millimetres)} mm)",
          cause: row["cause"],
          mm: millimetres.round(3)
        ).freeze
      end

      def plain(number)
        format("%.3f", number).sub(/0+\z/, "").delete_suffix(".")
      end

      def told?(rule, millimetres)
        millimetres >= @rules.fetch(rule)["mm"]
      end

      def between_pads(corner)
        inner, outer = Sheet::PLACES.map { |place| @sheet.lining(corner, place) }
        return [] unless inner && outer

        rule = inner < outer ? "inner_thin" : "outer_thin"
        told?(rule, (inner - outer).abs) ? [finding(rule, corner, (inner - outer).abs)] : []
      end

      # Against the thinnest of the other side.
      def between_sides(corner)
        other = corner.end_with?("left") ? corner.sub("left", "right") : corner.sub("right", "left")
        mine, theirs = [corner, other].map { |each| @sheet.least_lining(each) }
        return [] unless mine && theirs && mine < theirs && told?("side_thin", theirs - mine)

        [finding("side_thin", corner, theirs - mine)]
      end

      # Rear pads that wear before the front ones.
      def axles
        front, rear = %w[front rear].map { |axle| share(axle) }
        return [] unless front && rear

        corner = @sheet.corners.select { |each| each.start_with?("rear") }.min_by { |each| @sheet.least_lining(each) }
        less = front - rear
        told?("park_brake", less) ? [finding("park_brake", corner, less)] : []
      end

      def share(axle)
        @sheet.corners.select { |corner| corner.start_with?(axle) }.map { |corner| @sheet.least_lining(corner) }.min
      end

      def discs
        Sheet::CORNERS.flat_map { |corner| disc(corner, @sheet.disc(corner)) }
      end

      def disc(corner, figures)
        rows = []
        thickness, least = figures.values_at("thickness", "least")
        rows << finding("disc_thin", corner, least - thickness) if thickness && least && thickness < least
        { "variation" => "disc_variation", "runout" => "disc_runout" }.each do |name, rule|
          rows << finding(rule, corner, figures[name]) if figures[name] && told?(rule, figures[name])
        end
        rows
      end

      # From an earlier visit where there is one, else from new: the gauge may be off either way, at each end.
      def left_of(corner)
        now = @sheet.least_lining(corner)
        before, driven, from = since(corner)
        return unless driven&.positive? && before > now

        least = @sheet.axle(corner, "least")
        rate = (before - now) / driven
        Left.new(
          corner: corner,
          worn: (rate * 1000).round(4),
          left: ([now - least, 0].max / rate).round,
          low: low(now, before, driven, least),
          high: high(now, before, driven, least),
          from: from
        ).freeze
      end

      # [lining then, km driven since, in words].
      def since(corner)
        visit = @earlier.reverse.find { |each| each.least_lining(corner) }
        return visit.least_lining(corner), @sheet.distance - visit.distance, "since #{visit.distance.round} km" if visit
        return unless @sheet.distance

        start = @new_at || 0.0
        [@sheet.axle(corner, "new"), @sheet.distance - start, @new_at ? "since new at #{start.round} km" : "since new"]
      end

      # Reckoned with the reading now off by the gauge, as the reading then was exact or as far off.
      def low(now, before, driven, least)
        reading = now - @sheet.gauge
        ([reading - least, 0].max * driven / (before - reading)).round
      end

      def high(now, before, driven, least)
        reading = now + @sheet.gauge
        return if before <= reading

        ([reading - least, 0].max * driven / (before - reading)).round
      end
    end
  end
end
