# frozen_string_literal: true

require "json"
require "json_schemer"
require "yaml"

module Gadwall
  module Knowledge
    # What a record of each file of data/ may hold, as JSON Schema (data/schema/): a field that nobody reads, or one of
    # another kind, is named with its file and record. Checked by bin/check and the specs, not at each start.
    module Schemas
      # folder: the path of data/. Returns an Array of sentences, [] where everything fits.
      def self.wrong(folder)
        files = Dir[File.join(folder, "*/**/*.yml")].reject { |file| file.include?("/archive/") }
        files.flat_map { |file| of_file(folder, file) }
      end

      def self.of_file(folder, file)
        name = file.delete_prefix("#{folder}/").delete_suffix(".yml")
        schema = schema_of(folder, name) or return ["#{file}: no schema in data/schema names this file"]
        data = YAML.safe_load_file(file, aliases: true)
        records = data.is_a?(Array) ? data : [data]
        records.flat_map do |record|
          schema.validate(record).first(3).map { |error| "#{file}, #{record["id"]}: #{sentence(error)}" }
        end
      end

      # A file has a schema of its own, or that of its folder.
      def self.schema_of(folder, name)
        paths = [name.tr("/", "-"), File.dirname(name).tr("/", "-"), name.split("/").first]
        path = paths.map { |each| File.join(folder, "schema", "#{each}.schema.json") }.find { |each| File.exist?(each) }
        path && ((@schemas ||= {})[path] ||= JSONSchemer.schema(JSON.parse(File.read(path))))
      end

      def self.sentence(error)
        place = error["data_pointer"].delete_prefix("/")
        return "the field '#{place}' is not known" if error["schema_pointer"].end_with?("additionalProperties")

        "#{place.empty? ? "the record" : "'#{place}'"}: #{error["error"].to_s.sub(/\Avalue at `[^`]*` /, "")}"
      end
      private_class_method :of_file, :schema_of, :sentence
    end
  end
end
