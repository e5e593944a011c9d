#include "manual/overview.h"

namespace octaphon::manual {
namespace {

constexpr const char *kBegin = "<!-- usage: made from the program -->\n", *kEnd = "<!-- end -->";
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

std::string withOverview(const std::string& document, const Command& program) {
  const std::size_t begin = document.find(kBegin), end = document.find(kEnd);
  if (begin == std::string::npos || end == std::string::npos || end < begin) return {};
  std::string usage = "\n```\n";
  for (const Command& command : program.commands) usage += linesOf(command);
  return document.substr(0, begin) + kBegin + usage + "```\n\n" + document.substr(end);
}

}  // namespace octaphon::manual
