#include "manual/man_page.h"

#include <algorithm>
#include <cctype>

namespace octaphon::manual {
namespace {

/// Letters that mean something to the formatter (groff_char(7), groff(7)).
std::string plain(std::string_view text) {
  std::string out;
  for (const char c : text) {
    if (c == '\\')
      out += "\\e";
    else if (c == '-')
      out += "\\-";
    else if (c == '\'')
      out += "\\(aq";
    else if (c == '`')
      out += "\\(ga";
    else if (c == '^')
      out += "\\(ha";
    else if (c == '~')
      out += "\\(ti";
    else
      out += c;
  }
  return out;
}

/// Long lists of keys may be broken behind their commas.
std::string bold(std::string_view text) {
  std::string out = "\\fB";
  for (const char c : text) out += plain({&c, 1}) + (c == ',' || c == '|' ? "\\:" : "");
  return out + "\\fR";
}
std::string italic(std::string_view text) { return "\\fI" + plain(text) + "\\fR"; }

/// A line that begins with a point or an apostrophe would be a request.
std::string line(const std::string& text) { return (text.starts_with('.') ? "\\&" + text : text) + "\n"; }

/// What stands between two marks from here on; empty where it does not end.
std::string_view between(std::string_view text, std::size_t at, std::string_view mark) {
  const std::size_t from = at + mark.size(), to = text.find(mark, from);
  return to == std::string_view::npos ? std::string_view() : text.substr(from, to - from);
}

/// The words of a link, and how long all of it is.
std::pair<std::string_view, std::size_t> linkAt(std::string_view text, std::size_t at) {
  const std::size_t middle = text.find("](", at);
  const std::size_t end = middle == std::string_view::npos ? middle : text.find(')', middle);
  const std::string_view words = end == std::string_view::npos ? "" : text.substr(at + 1, middle - at - 1);
  if (words.empty() || words.find('[') != std::string_view::npos) return {};
  return {words, end + 1 - at};
}

std::string inlineRoff(std::string_view text) {
  std::string out;
  for (std::size_t i = 0; i < text.size();) {
    if (text[i] == '`') {
      if (const auto code = between(text, i, "`"); !code.empty()) {
        out += bold(code);
        i += code.size() + 2;
        continue;
      }
    }
    if (text.substr(i, 2) == "**") {
      if (const auto strong = between(text, i, "**"); !strong.empty()) {
        out += bold(strong);
        i += strong.size() + 4;
        continue;
      }
    }
    if (text[i] == '[') {
      if (const auto [words, length] = linkAt(text, i); length > 0) {
        out += inlineRoff(words);
        i += length;
        continue;
      }
    }
    out += text[i] == '\n' ? " " : plain(text.substr(i, 1));
    ++i;
  }
  return out;
}

std::string paragraphs(std::string_view text) {
  std::string out;
  for (std::size_t from = 0; from < text.size();) {
    const std::size_t to = std::min(text.find("\n\n", from), text.size());
    if (to > from) out += ".PP\n" + line(inlineRoff(text.substr(from, to - from)));
    from = to + 2;
  }
  return out;
}

std::string termOf(const Option& option) {
  std::string term;
  for (const std::string& name : option.names)
    term += (term.empty() ? "" : ", ") + bold(option.isPositional ? option.value : name);
  if (!option.isPositional && !option.value.empty()) term += " " + italic(option.value);
  return term;
}

std::string listed(const std::vector<std::string>& words) {
  std::string text;
  for (const std::string& word : words) text += (text.empty() ? "" : ", ") + bold(word);
  return text;
}

std::string optionsOf(const Command& command, bool arePositional) {
  std::string out;
  for (const Option& option : command.options) {
    if (option.isPositional != arePositional) continue;
    out += ".TP\n" + line(termOf(option)) + line(inlineRoff(option.text + "."));
    if (!option.excludes.empty()) out += line("Not together with " + listed(option.excludes) + ".");
  }
  return out;
}

std::string section(const std::string& title, const std::string& text) {
  return text.empty() ? text : ".SH " + title + "\n" + text;
}

std::string synopsis(const Command& command) {
  if (!command.commands.empty()) return bold(command.name) + " " + italic("COMMAND") + " …\n";
  std::string text = bold(command.name);
  for (const std::string& part : command.usage()) text += " " + plain(part);
  return text + "\n";
}

std::string fileName(std::string name) {
  std::replace(name.begin(), name.end(), ' ', '-');
  return name;
}

std::string commandsOf(const Command& command) {
  std::string out;
  for (const Command& one : command.commands)
    out += ".TP\n" + line("\\fB" + plain(fileName(one.name)) + "\\fR(1)") + line(inlineRoff(one.text + "."));
  return out;
}

std::string seeAlso(const Command& command) {
  std::string text;
  for (const char* page : {"octaphon", "octaphon-cli", "octaphon-receiver"})
    if (command.name != page) text += (text.empty() ? "" : ", ") + bold(page) + "(1)";
  return text + "\n";
}

}  // namespace

std::string manPage(const Command& command, std::string_view about, const Edition& edition) {
  std::string capitals = fileName(command.name);
  std::transform(capitals.begin(), capitals.end(), capitals.begin(),
                 [](unsigned char c) { return std::toupper(c); });
  std::string page = ".TH " + plain(capitals) + " 1 " + edition.date + " \"Octaphon " + edition.version +
                     "\" Octaphon\n.ad l\n";
  page += section("NAME", plain(fileName(command.name)) + " \\- " + inlineRoff(command.text) + "\n");
  page += section("SYNOPSIS", synopsis(command));
  page += section("DESCRIPTION", paragraphs(about));
  page += section("ARGUMENTS", optionsOf(command, true));
  page += section("COMMANDS", commandsOf(command));
  page += section("OPTIONS", optionsOf(command, false));
  page += section("EXIT STATUS", command.ending.empty() ? "" : line(inlineRoff(command.ending)));
  return page + section("SEE ALSO", seeAlso(command));
}

std::string sectionOf(std::string_view document, const std::string& heading) {
  const std::string title = "\n## " + heading + "\n";
  const std::size_t at = document.find(title);
  if (at == std::string_view::npos) return {};
  const std::size_t from = at + title.size(), to = std::min(document.find("\n## ", from), document.size());
  std::string text(document.substr(from, to - from));
  text.erase(0, text.find_first_not_of('\n'));
  text.erase(text.find_last_not_of('\n') + 1);
  return text;
}

}  // namespace octaphon::manual
