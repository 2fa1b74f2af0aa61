# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Bayes' rule and what a test tells, on plain arrays (Shannon; handbook: information theory, from memory).
    module Information
      # priors, likelihoods: {hypothesis => Float}. Returns the normalised posterior.
      def self.posterior(priors, likelihoods)
        joint = priors.to_h { |name, prior| [name, prior * likelihoods.fetch(name)] }
        total = joint.values.sum
        joint.transform_values { |weight| weight / total }
      end

      # Rows added up, each with its share. Bare loops: they run for every belief and every test.
      def self.mixed(rows, shares)
        sums = Array.new(rows[0].size, 0.0)
        k = rows.size
        while (k -= 1) >= 0
          share = shares[k]
          next if share == 0.0

          row = rows[k]
          i = row.size
          sums[i] += share * row[i] while (i -= 1) >= 0
        end
        sums
      end

      # Bits of a distribution.
      def self.entropy(chances)
        chances.sum { |p| p.positive? ? -p * Math.log2(p) : 0.0 }
      end

      # Mutual information, in bits, of a joint table: rows of chances that sum to 1 over all.
      # I = sum p log p - sum row log row - sum column log column.
      def self.mutual(rows)
        columns = Array.new(rows.first.size, 0.0)
        bits = 0.0
        rows.each do |row|
          total = 0.0
          bin = row.size
          while (bin -= 1) >= 0
            p = row[bin]
            next if p < 1e-12

            total += p
            columns[bin] += p
            bits += p * Math.log2(p)
          end
          bits -= total * Math.log2(total) if total.positive?
        end
        [bits + entropy(columns), 0.0].max
      end
    end
  end
end
