# frozen_string_literal: true

require "digest"

module Web
  # The token of a form with a digest of its address and fields: the same form sent twice is taken once, the same token
  # with other content is refused. Frozen.
  FormToken =
    Struct.new(:id, :digest, keyword_init: true) do
      # id: text; path: where the form goes; fields: as Rack gave them. Returns a FormToken.
      def self.of(id, path, fields)
        told = fields.except(*FormToken::GUARDS).sort.flat_map { |name, value| FormToken.flat(name, value) }
        new(id: id, digest: Digest::SHA256.hexdigest([path, *told].inspect)).freeze
      end

      # A field and all within it, as texts; of a file its name and content.
      def self.flat(name, value)
        if value.is_a?(Hash) && !value["tempfile"]
          return value.sort.flat_map { |key, each| flat("#{name}[#{key}]", each) }
        end
        return value.flat_map { |each| flat("#{name}[]", each) } if value.is_a?(Array)
        return [[name, value["filename"], Digest::SHA256.file(value["tempfile"].path).hexdigest]] if value.is_a?(Hash)

        [[name, value.to_s.gsub(/\r\n?/, "\n")]]
      end

      def to_s
        id
      end
    end
  FormToken::GUARDS = %w[authenticity_token form_token seen person captures splat number].freeze
end
