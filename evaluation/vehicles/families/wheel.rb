# frozen_string_literal: true

module Gadwall
  module Evaluation
    module Vehicles
      module Families
        # What both kinds of wheel circuit share: a ring, pulses that arrive or do not, and how they are looked at.
        class Wheel < Branch
          PATTERNS = {
            "cracked" => "one_gap",
            "tooth" => "one_gap",
            "dirty" => "uneven",
            "wrong_count" => "ratio"
          }.freeze
          # What each way of looking cannot tell, and what it shows instead.
          BLIND = {
            "live_spin" => %w[ratio one_gap uneven],
            "substitute_sensor" => %w[ratio one_gap uneven],
            "simulate_at_module" => %w[ratio one_gap uneven]
          }.freeze

          # How often a bad ring is seen by who looks.
          SEEN = { "cracked" => 0.88, "tooth" => 0.8, "dirty" => 0.85, "missing" => 0.98 }.freeze

          private

          def default_joints
            %w[module_plug body_connector sensor_plug]
          end

          def far_place
            "sensor"
          end

          def own_lamps
            %w[abs esc]
          end

          # What the pulses are like where enough of them arrives. strength: 1.0 as it should be.
          def category(strength)
            return "none" if wrong?("missing") || strength < 0.15
            return "weak" if strength * amplitude < 0.5

            PATTERNS.find { |state, _| wrong?(state, "ring") }&.last || "even"
          end

          def amplitude
            present.find { |trouble| trouble.state == "weak" }&.ohm || 1.0
          end

          def signal_claims(category)
            case category
            when "none"
              [["no_signal", false]]
            when "weak"
              [[random.rand < 0.7 ? "no_signal" : "implausible", false]]
            when "even"
              []
            else
              [["implausible", false]]
            end
          end

          def seen(name, place, _wire, outcomes)
            shown = shown(name, place)
            shown = { "weak" => "none" }.fetch(shown, "even") if BLIND.fetch(name, []).include?(shown)
            shown = "none" if BLIND.key?(name) && shown == "weak"
            shown = "dropouts" if fleeting_shown?(name, shown) && outcomes.include?("dropouts")
            shown = "one_gap" if shown == "uneven" && !outcomes.include?("uneven")
            outcomes.include?(shown) ? shown : outcomes.first
          end

          # Watched for a while, what comes and goes is met as drop-outs.
          def fleeting_shown?(name, shown)
            return false if name == "simulate_at_module"

            shown == "even" &&
              troubles.any? do |trouble|
                next false if name == "substitute_sensor" && %w[sensor ring].include?(trouble.place)

                trouble.duty < 1.0 && trouble.place != "ring" && random.rand < trouble.duty
              end
          end

          def shown(name, place)
            case name
            when "simulate_at_module"
              wrong?("dead") ? "none" : "even"
            when "substitute_sensor"
              wrong?("dead") || with_good_sensor { wiring_strength } < 0.4 ? "none" : "even"
            when "scope"
              at_pins(place)
            else
              wrong?("dead") ? "none" : category(wiring_strength)
            end
          end

          # What a known-good sensor in the place of its own makes of it.
          def with_good_sensor
            now = @here.dup
            @troubles.each { |trouble| @here[trouble] = false if %w[sensor ring].include?(trouble.place) }
            yield.tap { @here = now }
          end

          def own_sight(name, outcomes)
            return sensor_sight(outcomes) if name == "look_sensor"
            return film_sight(outcomes) if name == "encoder_film"
            return outcomes.first unless name == "look_ring"

            ring = troubles.find { |trouble| trouble.place == "ring" } or return outcomes.first
            seen =
              { "cracked" => "cracked", "tooth" => "tooth", "dirty" => "dirty", "missing" => "missing" }[ring.state]
            seen && random.rand < SEEN.fetch(ring.state) ? seen : outcomes.first
          end

          # Poles all round, a gap in them, or none.
          def film_sight(outcomes)
            ring = troubles.find { |trouble| trouble.place == "ring" } or return outcomes.first
            { "cracked" => "gap", "tooth" => "gap", "missing" => "none" }.fetch(ring.state, outcomes.first)
          end

          def sensor_sight(outcomes)
            return "filings" if troubles.any? { |each| each.state == "dirty" } && random.rand < 0.7

            troubles.any? { |each| each.state == "weak" } && random.rand < 0.6 ? "gap" : outcomes.first
          end

          def ring_troubles
            %w[cracked cracked tooth dirty missing wrong_count].map { |state| -> { part("ring", state) } }
          end
        end
      end
    end
  end
end
