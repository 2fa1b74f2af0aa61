# frozen_string_literal: true

module Gadwall
  module Testing
    # Turns the test records of data/tests into the tests of one line: one for each joint, pair of joints, section or wire
    # that a record asks for, with names and pins of this vehicle filled in.
    class Expansion
      def self.tests(line, catalogue)
        new(line, catalogue).tests
      end

      def initialize(line, catalogue)
        @line = line
        @catalogue = catalogue
      end

      def tests
        @catalogue.tests(@line.template).flat_map { |record| spread(record) }
      end

      private

      def spread(record)
        scopes(record, record["each"] || []).map { |scope| build(record, scope) }
      end

      def scopes(record, each)
        scopes = [{}]
        each.each { |word| scopes = scopes.flat_map { |scope| choices(record, word).map { |choice| scope.merge(choice) } } }
        scopes
      end

      # A record may be held to some joints or wires ("only"), or leave some out ("except").
      def choices(record, word)
        all = all_choices(word)
        only = record.dig("only", "#{word}s")
        except = record.dig("except", "#{word}s") || []
        all.select { |choice| (only.nil? || only.include?(name_of(choice))) && !except.include?(name_of(choice)) }
      end

      def name_of(choice)
        choice.values.first.then { |value| value.respond_to?(:id) ? value.id : value }
      end

      def all_choices(word)
        case word
        when "joint" then @line.joints.map { |joint| { joint: joint } }
        when "joint_before_last" then @line.joints[0..-2].map { |joint| { joint: joint } }
        when "joint_pair" then @line.joints.combination(2).map { |from, to| { from: from, to: to } }
        when "section" then @line.sections.map { |section| { section: section, from: section.from, to: section.to } }
        when "wire" then @line.wires.map { |wire| { wire: wire } }
        when "module" then @line.modules.map { |id, joint| { module: id, joint: joint } }
        end
      end

      def build(record, scope)
        words = words_for(scope)
        access, closes = access_for(record, scope)
        Test.new(id: id_for(record, scope), title: fill(record["title"], words, scope), kind: record["kind"],
                 state: state_for(record["state"] || {}, scope), probes: (record["probes"] || []).map { |probe| fill(probe, words, scope) },
                 where: fill(record["where"], words, scope), access: access, closes: closes, minutes: record["minutes"],
                 invasive: record["invasive"] || 0, cautions: cautions_for(record, access), place: record["place"] && fill(record["place"], words, scope),
                 outcomes: record["outcomes"], record: fill_rows(record, words, scope), source: record["source"]).freeze
      end

      def id_for(record, scope)
        place = scope[:module] || scope[:section]&.id || (scope[:from] ? "#{scope[:from].id}-#{scope[:to].id}" : scope[:joint]&.id)
        [record["id"], scope[:wire]&.id, place].compact.join(".")
      end

      def words_for(scope)
        first = @line.joints.first
        last = @line.joints.last
        { "joint" => scope[:joint]&.name, "joint_id" => scope[:joint]&.id, "from" => scope[:from]&.name, "from_id" => scope[:from]&.id,
          "to" => scope[:to]&.name, "to_id" => scope[:to]&.id, "wire" => scope[:wire]&.name, "wire_id" => scope[:wire]&.id,
          "module" => scope[:module] && @line.module_name(scope[:module]), "module_id" => scope[:module], "section_id" => scope[:section]&.id, "first_joint" => first&.name, "last_joint" => last&.name, "last_id" => last&.id,
          "head" => @line.template["head"]["name"], "tail" => @line.template["tail"]["name"],
          "first_pins" => @line.wires.map { |wire| first.pins[wire.id] }.join(" and "), "first_return_pin" => first&.pins&.fetch("return", nil),
          "pin_wire" => pin(scope[:joint], scope[:wire]), "pin_from" => pin(scope[:from], scope[:wire]), "pin_to" => pin(scope[:to], scope[:wire]) }
      end

      def pin(joint, wire)
        joint && wire ? joint.pins[wire.id] : nil
      end

      def pin_joint(name, scope)
        case name
        when nil then scope[:joint]
        when "first" then @line.joints.first
        when "last" then @line.joints.last
        else @line.joint(name)
        end
      end

      def fill(text, words, scope)
        text.gsub(/\{pin (\w+)(?: (\w+))?\}/) { (pin_joint($2, scope).pins[$1] || $1).to_s }
            .gsub(/\{(\w+)\}/) { words[$1].to_s }
            .then { |filled| filled.sub(/\A\p{Ll}/, &:upcase).then { |sentence| text.include?(" ") ? sentence : filled } }
      end

      # Rows and rules of a look speak of this vehicle's places and nodes; so does what it leaves out.
      def fill_rows(record, words, scope)
        filled = record.slice("rows", "rules").transform_values { |rows| rows.map { |row| fill_row(row, words, scope) } }
        filled["without"] = record["without"].map { |place| fill(place, words, scope) } if record["without"]
        filled.empty? ? record : record.merge(filled)
      end

      def fill_row(row, words, scope)
        row.to_h do |key, value|
          case value
          when String then [key, fill(value, words, scope)]
          when Array then [key, value.map { |each| each.is_a?(String) ? fill(each, words, scope) : each }]
          else [key, value]
          end
        end
      end

      def state_for(spec, scope)
        last = @line.joints.last&.id
        apart = case spec["apart"]
                when "here" then [scope[:joint].id]
                when "both" then [scope[:from].id, scope[:to].id]
                when "here_and_last" then [scope[:joint].id, last].uniq
                when "ends" then [@line.joints.first.id, last].uniq
                when "first" then [@line.joints.first.id]
                when "last" then [last]
                when Array then spec["apart"]
                else []
                end
        Circuits::Line::State.of(apart: apart, **spec.except("apart").transform_keys(&:to_sym))
      end

      # [[key, minutes], ...] to be paid, and the keys that the test closes.
      def access_for(record, scope)
        named = (record["access"] || []).flat_map { |word| reach(word, scope) }
        named += [scope[:from], scope[:to]].flat_map { |joint| reach_joint(joint) } if record["each"]&.include?("joint_pair")
        rule = @catalogue.access["drive"]
        [named.uniq.freeze, (record["access"] || []).include?("drive") ? rule["closes"] : []]
      end

      def reach(word, scope)
        case word
        when "joint" then reach_joint(scope[:joint])
        when "first_joint" then reach_joint(@line.joints.first)
        when "last_joint", "sensor_plug" then reach_joint(@line.joints.last)
        when "section" then needs(scope[:section].needs)
        when "module_plug" then reach_joint(@line.joints.last)
        else needs(word)
        end
      end

      def reach_joint(joint)
        needs(joint.needs) + [[joint.with || "joint:#{joint.id}", joint.minutes]]
      end

      def needs(key)
        key ? [[key, @catalogue.access.fetch(key)["minutes"]]] : []
      end

      def cautions_for(record, access)
        from_access = access.flat_map { |key, _| @catalogue.access.dig(key, "cautions") || [] }
        (from_access + (record["cautions"] || [])).uniq
      end
    end
  end
end
