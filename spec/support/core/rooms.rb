# frozen_string_literal: true

# The rooms of the core and who uses whom, by the constants that each file names: as Ruby parses them, and as they
# resolve where they stand.
class Rooms
  LIB = File.expand_path("../../../lib", __dir__)

  # A constant of one room named in another. line: where.
  Use = Struct.new(:from, :to, :file, :line, keyword_init: true)

  # Rooms in the order in which lib/gadwall.rb lists them.
  def listed
    @listed ||= File.read(File.join(LIB, "gadwall.rb")).scan(%r{^#   ([a-z_]+)/}).flatten
  end

  # Folders that there are.
  def folders
    Dir[File.join(LIB, "gadwall/*/")].map { |path| File.basename(path) }
  end

  # Array of Use, all that cross from one room to another.
  def uses
    @uses ||= listed.flat_map { |room| files(room).flat_map { |file| of_file(room, file) } }
  end

  # Those that go down the list.
  def wrong
    uses.select { |use| listed.index(use.to) > listed.index(use.from) }
  end

  private

  def files(room)
    Dir[File.join(LIB, "gadwall/#{room}/**/*.rb")] + Dir[File.join(LIB, "gadwall/#{room}.rb")]
  end

  def of_file(room, file)
    named(RubyVM::AbstractSyntaxTree.parse_file(file)).filter_map do |name, line|
      other = rooms_by_name[name]
      next if other.nil? || other == room || own?(room, name)

      Use.new(from: room, to: other, file: file.delete_prefix("#{LIB}/"), line: line)
    end
  end

  def rooms_by_name
    @rooms_by_name ||= listed.to_h { |room| [constant_of(room), room] }
  end

  def constant_of(room)
    room == "cli" ? "CLI" : room.split("_").map(&:capitalize).join
  end

  # Does the name stand for something of the room itself (CLI::Tests)?
  def own?(room, name)
    Gadwall.const_get(constant_of(room)).const_defined?(name, false)
  end

  # First names of constants, behind Gadwall where that is said: [[name, line], ...].
  def named(node, found = [])
    return found unless node.is_a?(RubyVM::AbstractSyntaxTree::Node)

    case node.type
    when :CONST
      found << [node.children.first.to_s, node.first_lineno]
    when :COLON2
      scope, name = node.children
      inner = scope.is_a?(RubyVM::AbstractSyntaxTree::Node) && scope.type == :CONST && scope.children.first == :Gadwall
      return found << [name.to_s, node.first_lineno] if inner

      named(scope, found)
    else
      node.children.each { |child| named(child, found) }
    end
    found
  end
end
