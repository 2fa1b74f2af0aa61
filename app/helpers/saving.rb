# frozen_string_literal: true

module Web
  module Helpers
    # From a form to an entry of the log.
    module Saving
      # Writes an entry, or tells that another browser was first. view: shown again then, with what was typed and the
      # new state; the block says where to go on.
      def save(file, entry, view, **locals)
        desk.append(file.job, entry, params)
        yield
      rescue Store::Conflict => error
        status 409
        erb view, locals: { file: desk.file(file.job.number), errors: { "conflict" => error.message }, **locals }
      end

      # The entry of a reading or a look. Raises Gadwall::InputError for what no test of the vehicle can show.
      def reading_entry(file)
        _, test = file.log.system.test(params["test"])
        typed = params[test.numeric? ? "reading" : "result"].to_s
        Gadwall::Evidence::Result.of(test, typed)
        entry =
          if test.numeric?
            { "kind" => "reading", "test" => params["test"], "reading" => typed }
          else
            { "kind" => "finding", "test" => params["test"], "result" => typed }
          end
        entry["condition"] = params["condition"] if Gadwall::Evidence::CONDITIONS.key?(params["condition"])
        params["phase"] == "after" ? entry.merge("phase" => "after") : entry
      end
    end
  end
end
