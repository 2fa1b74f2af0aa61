# frozen_string_literal: true

module Gadwall
  module Job
    module Acts
      # Keeps a set of parameters. values: source (of Entries::Parameters::SOURCES), text (of the file, or typed), file
      # (its name, or nil).
      class KeepParameters < Act
        private

        def closed
          before_decision
        end

        def check
          unless Entries::Parameters::SOURCES.key?(values[:source])
            return refuse("source", "Choose where the parameters were read.")
          end

          @rows = Repair::ParameterSets.read(values[:text])
        rescue InputError => error
          refuse("parameters", error.message)
        end

        def entries
          row = { "source" => values[:source], "rows" => @rows, "file" => values[:file] }
          [Entries::Parameters.new(row.compact)]
        end
      end
    end
  end
end
