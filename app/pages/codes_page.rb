# frozen_string_literal: true

module Web
  module Pages
    # The pre-scan: what was scanned, what each DTC is taken to mean, and what the customer said.
    class CodesPage < Page
      # A DTC of a scan, with its place in it. says: the circuit and claim it is read as, nil where neither is known.
      Code = Struct.new(:scan, :index, :word, :status, :text, :says, :circuit, :claim, keyword_init: true)
      # A scan with its codes.
      ScanRow = Struct.new(:seq, :at, :codes, :silent, :count, :by_interface, :simulated, keyword_init: true)

      attr_reader :form, :now

      # form: Forms::CodesForm of what was refused, or nil; earlier: Workshop::EarlierScan of this vehicle, or nil.
      def initialize(dossier, form: nil, errors: {}, typed: {}, earlier: nil)
        super(dossier, errors: errors, typed: typed)
        @form = form
        @earlier = earlier
      end

      def stage
        "codes"
      end

      def scans
        @scans ||= dossier.log.of("scan").reject(&:after?).map { |entry| scan_row(entry) }
      end

      def scanned?
        scans.any?
      end

      def skipped
        dossier.log.of("scan_skipped").last&.reason
      end

      # May what was scanned still be changed?
      def open?
        !dossier.decided? && !dossier.handed_over?
      end

      def fields
        label = "DTCs, one per line: DTC, failure type byte, status, text"
        ScanFields.new(dossier.sheet, form, errors, label, earlier: @earlier)
      end

      # Number of the job whose vehicle came back, or nil.
      def comeback_of
        dossier.log.of("symptoms").filter_map(&:comeback_of).first
      end

      def complaint
        dossier.record.complaint
      end

      # Why the vehicle must stay, in words; [] where nothing was said.
      def off_road
        Gadwall::Decision::Triage.words(dossier.off_road)
      end

      def symptoms
        dossier.log.of("symptoms").flat_map(&:ids).uniq.map { |id| catalogue.symptoms.dig(id, "text") || id }
      end

      # A sentence where the check digit of the VIN does not fit, or nil.
      def vin_note
        vin = dossier.record.vehicle["vin"]
        return if vin.nil? || Gadwall::Vehicle::VIN.check_digit_right?(vin)

        "The check digit of #{vin} does not fit (#{Gadwall::Vehicle::VIN.check_digit(vin)} would). Outside North " \
          "America and China that can be right; read it again."
      end

      def battery_caution
        catalogue.cautions["low_battery"]["text"]
      end

      # [[id, title], ...] and [[id, text], ...] for correcting what a DTC means.
      def circuits
        dossier.system.circuits.map { |circuit| [circuit.id, circuit.title] }
      end

      def claims
        catalogue.claims.values.map { |claim| [claim["id"], claim["text"]] }
      end

      private

      # A scan that cannot be read any more is shown without what its codes mean.
      def scan_row(entry)
        scan = dossier.log.scan(entry)
        reader = Gadwall::TroubleCodes::CodeReader.new(dossier.sheet, catalogue)
        codes = entry.codes.each_with_index.map { |row, i| code(entry, i, reader.read(row, seq: entry.seq)) }
        silent = scan.modules.reject { |_, responded| responded }.keys
        ScanRow.new(
          seq: entry.seq,
          at: entry.at,
          codes: codes,
          silent: silent.map { |id| module_name(id) },
          count: count(scan),
          by_interface: entry.by_interface?,
          simulated: entry.simulated?
        ).freeze
      end

      # "12 of 14 modules responded; 1 not named yet: ...", or nil where nobody counted.
      def count(scan)
        return unless scan.responded

        said = "#{scan.responded}#{" of #{scan.expected}" if scan.expected} modules responded"
        return said if scan.unnamed_missing.zero?

        "#{said}; #{scan.unnamed_missing} not named yet: scan module by module against the build list"
      end

      def code(entry, index, code)
        Code.new(
          scan: entry.seq,
          index: index,
          word: code.word,
          status: code.status || "status not noted",
          text: code.text,
          says: says(code),
          circuit: code.circuit_id,
          claim: code.claim
        ).freeze
      end

      def says(code)
        return unless code.circuit_id

        claim = catalogue.claims.dig(code.claim, "text") || code.claim.to_s.tr("_", " ")
        "#{dossier.system.circuit_named(code.circuit_id).title}: #{claim}"
      end

      def module_name(id)
        catalogue.modules.dig(id, "name") || id.tr("_", " ")
      end
    end
  end
end
