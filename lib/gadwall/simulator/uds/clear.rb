# frozen_string_literal: true

module Gadwall
  module Simulator
    module Uds
      # 14: erases codes, all of them or one.
      class Clear < Service
        ALL = [0xFF, 0xFF, 0xFF].freeze

        private

        def served(bytes)
          length!(bytes, 4)
          group = bytes.drop(1)
          dtcs = group == ALL ? @ecu.dtcs.values : @ecu.dtcs.values.select { |each| each.bytes == group }
          raise Refused, :range if group != ALL && dtcs.empty?

          still!
          dtcs.each(&:clear)
          [0x54]
        end
      end
    end
  end
end
