# frozen_string_literal: true

require "open3"
require "tempfile"
require "tmpdir"

# The outside check of the solver: the same network given to ngspice (Debian package), which shares no code with ours.
module Spice
  # network: Gadwall::Circuits::Network; returns {node => volts}.
  def self.node_voltages(network)
    all_node_voltages([network]).first
  end

  # Each network solved by itself, all in one run of the program, which is slow to start. Array of {node => volts}.
  def self.all_node_voltages(networks)
    Dir.mktmpdir("gadwall") do |folder|
      lines =
        networks.each_with_index.flat_map do |network, k|
          File.write(File.join(folder, "#{k}.cir"), deck(network, k))
          ["source #{folder}/#{k}.cir", "op", *names(network, k).values.map { |name| "print v(#{name})" }]
        end
      printed = run(["gadwall", "R0 n0 0 1", ".control", "set numdgt=15", *lines, ".endc", ".end"].join("\n") << "\n")
      networks.each_with_index.map { |network, k| names(network, k).transform_values { |name| printed.fetch(name) } }
    end
  end

  # Many networks as one deck, for their time: nothing but the ground is shared.
  def self.solve_together(networks)
    lines = networks.each_with_index.flat_map { |network, k| network_lines(network, k) }
    run(["gadwall", *lines, ".control", "op", "print v(n0x0)", ".endc", ".end"].join("\n") << "\n")
  end

  def self.names(network, number)
    network.nodes.reject { |node| node == "ground" }.each_with_index.to_h { |node, i| [node, "n#{number}x#{i}"] }
  end

  def self.deck(network, number)
    [
      "gadwall",
      *network_lines(network, number),
      ".options reltol=1e-9 abstol=1e-18 vntol=1e-12 gmin=1e-18",
      ".end"
    ].join("\n") << "\n"
  end

  def self.network_lines(network, number)
    names = names(network, number)
    node = ->(name) { name == "ground" ? "0" : names.fetch(name) }
    network.elements.each_with_index.flat_map { |element, i| element_lines(element, "#{number}x#{i}", node) }
  end

  def self.element_lines(element, index, node)
    a = node.call(element.a)
    b = node.call(element.b)
    case element
    when Gadwall::Circuits::Network::Resistor
      ["R#{index} #{a} #{b} #{number(element.ohm)}"]
    when Gadwall::Circuits::Network::CurrentSource
      ["I#{index} #{a} #{b} DC #{number(element.ampere)}"]
    when Gadwall::Circuits::Network::Switch
      element.closed ? ["V#{index} #{a} #{b} DC 0"] : []
    when Gadwall::Circuits::Network::Ammeter
      ["V#{index} #{a} #{b} DC 0"]
    when Gadwall::Circuits::Network::Source
      source_lines(element, index, a, b)
    when Gadwall::Circuits::Network::Sink
      # full current above min_volt, a resistor below: a behavioural source
      [
        "B#{index} #{a} #{b} I = " \
          "v(#{a},#{b}) < #{number(element.min_volt)} ? " \
          "v(#{a},#{b})/#{number(element.starved_ohm)} : #{number(element.ampere)}".gsub(",0)", ")")
      ]
    end
  end

  def self.source_lines(element, index, a, b)
    return ["V#{index} #{a} #{b} DC #{number(element.volt)}"] if element.ohm.zero?

    ["V#{index} m#{index} #{b} DC #{number(element.volt)}", "R#{index} m#{index} #{a} #{number(element.ohm)}"]
  end

  def self.number(value)
    format("%.17g", value)
  end

  def self.run(deck)
    Tempfile.create(%w[gadwall .cir]) do |file|
      file.write(deck)
      file.flush
      out, err, = Open3.capture3("ngspice", "-b", file.path)
      rows = out.scan(/^v\((n[\dx]+)\) = ([-+0-9.eE]+)/).to_h { |name, value| [name, value.to_f] }
      raise "ngspice gave no voltages:\n#{out}\n#{err}" if rows.empty?

      rows
    end
  end
end
