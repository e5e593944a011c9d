#include "manual/completions.h"

namespace octaphon::manual {
namespace {

/// What a value is completed with.
enum class Values { None, Words, Files, Folders, Briefs };

Values valuesOf(const Option& option) {
  if (option.value.empty()) return Values::None;
  if (!option.choices.empty()) return Values::Words;
  if (option.takesFile()) return Values::Files;
  if (option.takesFolder()) return Values::Folders;
  return option.name() == "--brief" ? Values::Briefs : Values::None;
}

template <class Text>
std::string joined(const std::vector<Text>& texts, const char* between) {
  std::string all;
  for (const auto& text : texts) all += (all.empty() ? "" : between) + text;
  return all;
}

std::string shellQuoted(const std::string& text) {
  std::string out = "'";
  for (const char c : text) c == '\'' ? out += "'\\''" : out += c;
  return out + "'";
}

std::vector<std::string> words(const Command& program) {
  std::vector<std::string> all;
  for (const Command& command : program.commands) all.push_back(command.word());
  return all;
}

std::vector<std::string> namesOf(const Command& command) {
  std::vector<std::string> names;
  for (const Option& option : command.options)
    if (!option.isPositional) names.push_back(option.name());
  return names;
}

std::string bashValue(Values values, const Option& option) {
  switch (values) {
    case Values::Words:
      return "COMPREPLY=($(compgen -W " + shellQuoted(joined(option.choices, " ")) + " -- \"$word\"))";
    case Values::Files: return "_octaphon_files \"$word\"";
    case Values::Folders: return "_octaphon_folders \"$word\"";
    case Values::Briefs: return "_octaphon_briefs \"$word\"";
    case Values::None: return ":";
  }
  return ":";
}

/// Of what stands before the word that is typed.
std::string bashCases(const Command& command) {
  std::string out;
  for (const Option& option : command.options)
    if (!option.isPositional && !option.value.empty())
      out += "        " + option.name() + ") " + bashValue(valuesOf(option), option) + "; return ;;\n";
  return out;
}

constexpr const char* kBashHelpers = R"sh(
# One a line, as the shell would have it typed.
_octaphon_take() {
  local IFS=$'\n' line
  COMPREPLY=()
  for line in $1; do
    [[ $line == "$2"* ]] && COMPREPLY+=("$(printf '%q' "$line")")
  done
}
_octaphon_files() { compopt -o filenames 2>/dev/null; local IFS=$'\n'; COMPREPLY=($(compgen -f -- "$1")); }
_octaphon_folders() { compopt -o filenames 2>/dev/null; local IFS=$'\n'; COMPREPLY=($(compgen -d -- "$1")); }
_octaphon_briefs() {
  local given
  for given in "${COMP_WORDS[@]:2}"; do
    [[ $given == *.octaphon ]] || continue
    _octaphon_take "$(octaphon-cli briefs "${given/#\~/$HOME}" --names 2>/dev/null)" "${1//\\/}"
    return
  done
}
)sh";

std::string zshValue(const Option& option) {
  switch (valuesOf(option)) {
    case Values::Words: return "(" + joined(option.choices, " ") + ")";
    case Values::Files: return "_files";
    case Values::Folders: return "_files -/";
    case Values::Briefs: return "_octaphon_briefs";
    case Values::None: return " ";
  }
  return " ";
}

/// Brackets and colons end a description there.
std::string zshText(const std::string& text) {
  std::string out;
  for (const char c : text) {
    if (c == '[' || c == ']' || c == ':' || c == '\\') out += '\\';
    out += c;
  }
  return out;
}

std::string zshArguments(const Command& command) {
  std::string out;
  for (const Option& option : command.options) {
    if (option.name() == "--help") continue;
    std::string spec;
    if (option.isPositional)
      spec = std::string(option.isRepeated ? "*" : "") + ":" + option.value + ":" + zshValue(option);
    else {
      spec = (option.isRepeated ? "*" : "") + option.name() + "[" + zshText(option.text) + "]";
      if (!option.value.empty()) spec += ":" + zshText(option.value) + ":" + zshValue(option);
    }
    out += " \\\n        " + shellQuoted(spec);
  }
  return out;
}

}  // namespace

std::string bashCompletion(const Command& program) {
  std::string out =
      "# Completion of " + program.name + " for bash.\n" + kBashHelpers + "\n_octaphon_cli() {\n";
  out += "  local word=${COMP_WORDS[COMP_CWORD]} before=${COMP_WORDS[COMP_CWORD-1]}\n  COMPREPLY=()\n";
  out += "  if ((COMP_CWORD == 1)); then\n    COMPREPLY=($(compgen -W " +
         shellQuoted(joined(words(program), " ") + " --help --version") +
         " -- \"$word\"))\n    return\n  fi\n";
  out += "  case ${COMP_WORDS[1]} in\n";
  for (const Command& command : program.commands) {
    out += "    " + command.word() + ")\n";
    if (const std::string cases = bashCases(command); !cases.empty())
      out += "      case $before in\n" + cases + "      esac\n";
    out += "      if [[ $word == -* ]]; then\n        COMPREPLY=($(compgen -W " +
           shellQuoted(joined(namesOf(command), " ")) +
           " -- \"$word\"))\n      else\n        _octaphon_files \"$word\"\n      fi ;;\n";
  }
  return out + "  esac\n}\ncomplete -F _octaphon_cli " + program.name + "\n";
}

std::string zshCompletion(const Command& program) {
  std::string out = "#compdef " + program.name + "\n# Completion of " + program.name + " for zsh.\n";
  out += R"sh(
_octaphon_briefs() {
  local given
  local -a names
  for given in $words; do
    [[ $given == *.octaphon ]] || continue
    names=(${(f)"$(octaphon-cli briefs ${(Q)~given} --names 2>/dev/null)"})
    compadd -a names
    return
  done
}

)sh";
  out += "_octaphon_cli() {\n  if ((CURRENT == 2)); then\n    local -a commands\n    commands=(";
  for (const Command& command : program.commands)
    out += "\n      " + shellQuoted(command.word() + ":" + zshText(command.text));
  out +=
      ")\n    _describe command commands\n    return\n  fi\n  local command=$words[2]\n  shift words\n  "
      "((CURRENT--))\n";
  out += "  case $command in\n";
  for (const Command& command : program.commands)
    out += "    " + command.word() + ")\n      _arguments" + zshArguments(command) + " ;;\n";
  return out + "  esac\n}\n\n_octaphon_cli \"$@\"\n";
}

std::string fishCompletion(const Command& program) {
  const std::string name = "complete -c " + program.name + " ";
  std::string out = "# Completion of " + program.name + " for fish.\n";
  out += R"(
function __octaphon_briefs
  for given in (commandline -opc)
    if string match -q '*.octaphon' -- $given
      octaphon-cli briefs $given --names 2>/dev/null
      return
    end
  end
end

)";
  for (const Command& command : program.commands)
    out +=
        name + "-n __fish_use_subcommand -f -a " + command.word() + " -d " + shellQuoted(command.text) + "\n";
  for (const Command& command : program.commands)
    for (const Option& option : command.options) {
      if (option.isPositional) continue;
      out += name + "-n '__fish_seen_subcommand_from " + command.word() + "' -l " + option.name().substr(2);
      switch (valuesOf(option)) {
        case Values::Words: out += " -x -a " + shellQuoted(joined(option.choices, " ")); break;
        case Values::Files: out += " -r -F"; break;
        case Values::Folders: out += " -x -a '(__fish_complete_directories)'"; break;
        case Values::Briefs: out += " -x -a '(__octaphon_briefs)'"; break;
        case Values::None: out += option.value.empty() ? "" : " -x"; break;
      }
      out += " -d " + shellQuoted(option.text) + "\n";
    }
  return out;
}

}  // namespace octaphon::manual
