# frozen_string_literal: true

module Web
  module Routes
    # The diagnostic interface on a job: connected to a vehicle, module after module read into the scan, clearing and
    # routines. What was read before a connection is lost stays read.
    module Interface
      Acts = Gadwall::Job::Acts
      SIMULATED = Gadwall::Job::Entries::Entry::SIMULATED

      def self.registered(app)
        app.post("/jobs/:number/interface") do
          raise Interface.no_toy unless workshop.simulates?
          raise Interface.closed(dossier) if dossier.handed_over?

          seed = (input.integer("seed") || 1).clamp(1, Practice::MOST_SEED)
          exercise = Gadwall::Training::Drawn.for_sheet(dossier.record.vehicle, seed, id: dossier.number)
          workshop.stands.connect(dossier.record, exercise, by: person, at: now)
          redirect back_to_scan, 303
        rescue Gadwall::Error => error
          status 422
          show(codes_page(errors: { "interface" => error.message }))
        end

        # All modules of the vehicle on the bus, by the interface that is set.
        app.post("/jobs/:number/interface/scan") do
          raise Interface.not_set unless workshop.interface
          raise Interface.closed(dossier) if dossier.handed_over?

          scan_the_vehicle
        rescue Gadwall::Error => error
          status 422
          show(codes_page(errors: { "interface" => error.message }))
        end

        # One module more; the last keeps the scan.
        app.post("/jobs/:number/interface/read") do
          stand = exercise_stand
          stand, = on_stand({ "kind" => "key", "to" => "on" }) unless stand.state.awake?
          scan = reading_of(stand)
          on_stand({ "kind" => "read", "module" => scan.next_id }) if scan.next_id
          scan = reading_of(exercise_stand)
          next partial("codes/_reading", page: codes_page, scan: scan) if htmx? && scan.next_id

          read_to_the_end(scan)
        end

        app.post("/jobs/:number/interface/clear") do
          on_stand({ "kind" => "clear" })
          redirect back_to_scan, 303
        end

        app.post("/jobs/:number/interface/actuate") do
          on_stand({ "kind" => "actuate", "circuit" => input.text("circuit") })
          redirect "/jobs/#{dossier.number}/trace?circuit=#{input.text("circuit")}", 303
        rescue Gadwall::InputError => error
          status 422
          show_trace(trace_page(errors: { "test" => error.message }))
        end

        app.post("/jobs/:number/interface/routine") do
          workshop.together { run_routine(input.text("id")) }
          redirect "/jobs/#{dossier.number}/repair#set-up", 303
        end

        app.helpers Reading
      end

      # Why a customer's job is connected to no simulated vehicle.
      def self.no_toy
        Gadwall::InputError.new(
          field: "interface",
          given: "a simulated vehicle",
          expected: "a diagnostic interface on the vehicle itself",
          fix: "Made-up codes have no place in a customer's job. Simulated vehicles are in the practice bay."
        )
      end

      def self.not_set
        Gadwall::InputError.new(
          field: "interface",
          given: "none",
          expected: "a CAN interface of this machine",
          fix: "Choose it under Settings."
        )
      end

      def self.closed(dossier)
        Gadwall::InputError.new(
          field: "interface",
          given: "a job that is handed over",
          expected: "a job that is open",
          fix: "#{dossier.number} is closed: its record takes no more readings."
        )
      end

      # A scan on the way: modules read since it began.
      Scan =
        Struct.new(:ids, :reads, :silent, keyword_init: true) do
          # Id of the module to ask next, nil at the end.
          def next_id
            ids[reads.size + silent]
          end

          # How many of how many were asked.
          def asked
            [reads.size + silent, ids.size]
          end
        end

      # Helpers of the routes.
      module Reading
        # What was read before the bus was lost is kept as well; who did not answer then is told by a whole scan only.
        def scan_the_vehicle
          reads, broken = workshop.on_the_bus { |adapter| Gadwall::Instruments::DiagnosticInterface.new(adapter).scan }
          raise Gadwall::Instruments::DiagnosticInterface::Lost, broken || NOBODY if reads.empty?

          kept = keep_reads(reads, whole: broken.nil?)
          return finish(kept) { show(codes_page(errors: kept.errors)) } if broken.nil? || !kept.ok?

          status 422
          show(codes_page(errors: { "interface" => "#{broken} #{reads.size} modules were read and are kept." }))
        end
        NOBODY = "No module answers. Switch the key on; look at plug, cable and bit rate of the interface."

        def keep_reads(reads, whole:)
          ids = dossier.system.circuits.flat_map { |each| [each.module, *each.harness.modules.map(&:first)] }
          values =
            Gadwall::TroubleCodes::InterfaceScan.values(
              reads,
              expected: ids.compact.uniq,
              whole: whole,
              catalogue: Gadwall::Knowledge.catalogue
            )
          phase = dossier.decided? ? "after" : "before"
          perform(Acts::KeepScan, values.merge(phase: phase, via: "interface")) { back_to_scan }
        end

        # A routine run on the vehicle, and kept with the module's answer.
        def run_routine(id)
          _, done = on_stand({ "kind" => "routine", "id" => id })
          values = {
            routine: id.tr("_", " "),
            tool: "diagnostic interface",
            result: done.text.start_with?("Done") ? "worked" : "failed",
            note: done.text,
            code: done.text[/Refused: (\h{2})\b/, 1].to_s
          }
          kept = perform(Acts::RecordSetUp, values, origin: SIMULATED) { |job| "/jobs/#{job.number}/repair#set-up" }
          return if kept.ok?

          # What may not be kept is not run either: the vehicle stands as it stood.
          raise Gadwall::InputError.new(
                  field: "routine",
                  given: id,
                  expected: "a routine of a repair that is authorised",
                  fix: kept.errors.values.first
                )
        end

        # Modules read since the last whole round of them.
        def reading_of(stand)
          ids = stand.vehicle.ecus.map(&:request_id)
          read = stand.done.select { |each| each.kind == "read" }
          left = read.size % ids.size
          left = ids.size if left.zero? && read.any? && !scan_kept?(read.size / ids.size)
          round = left.zero? ? [] : read.last(left)
          reads = round.filter_map(&:read)
          Scan.new(ids: ids, reads: reads, silent: round.size - reads.size)
        end

        # Was the scan of this round kept already? rounds: how many were read.
        def scan_kept?(rounds)
          dossier.log.of("scan").count(&:by_interface?) >= rounds
        end

        def read_to_the_end(scan)
          while scan.next_id
            on_stand({ "kind" => "read", "module" => scan.next_id })
            scan = reading_of(exercise_stand)
          end
          rows = Gadwall::Training::ScanRows.new(exercise_stand.vehicle).values(scan.reads)
          phase = dossier.decided? ? "after" : "before"
          done = perform(Acts::KeepScan, rows.merge(phase: phase, via: "interface"), origin: SIMULATED) { back_to_scan }
          return finish(done) { show(codes_page(errors: done.errors)) } unless htmx? && done.ok?

          headers "HX-Redirect" => done.landing
          ""
        end

        # Routines that the modules of a vehicle can run: [[id, name], ...].
        def routines_of(stand)
          ids = stand.vehicle.ecus.map(&:id)
          rows = stand.system.catalogue.routines.values
          rows.select { |row| row["modules"].intersect?(ids) }.map { |row| row.values_at("id", "name") }
        end

        def back_to_scan
          "/jobs/#{dossier.number}/#{dossier.decided? ? "proof" : "codes"}"
        end
      end
    end
  end
end
