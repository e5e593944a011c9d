#include "manual/overview.h"

namespace octaphon::manual {
namespace {

constexpr std::size_t kWidth = 130;

/// Letters, not bytes.
std::size_t widthOf(const std::string& text) {
  std::size_t width = 0;
  for (const char c : text) width += (static_cast<unsigned char>(c) & 0xc0) != 0x80 ? 1 : 0;
  return width;
}

std::string linesOf(const Command& command) {
  std::string lines, line = command.name;
  const std::string indent(command.name.size(), ' ');
  for (const std::string& part : command.usage()) {
    if (widthOf(line) + 1 + widthOf(part) > kWidth) {
      lines += line + "\n";
      line = indent;
    }
    line += " " + part;
  }
  return lines + line + "\n";
}

}  // namespace

std::string overview(const Command& program) {
  std::string usage = "```\n";
  for (const Command& command : program.commands) usage += linesOf(command);
  return usage + "```\n";
}

}  // namespace octaphon::manual
