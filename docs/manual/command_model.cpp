#include "manual/command_model.h"

#include <algorithm>
#include <cctype>

#include <CLI/CLI.hpp>

namespace octaphon::manual {
namespace {

std::string upper(std::string text) {
  std::transform(text.begin(), text.end(), text.begin(), [](unsigned char c) { return std::toupper(c); });
  return text;
}

/// Without what a check adds: `INT:INT in [1 - 256]` is `INT`.
std::string valueOf(const CLI::Option& option) {
  const std::string value = option.get_type_name();
  for (const char* check : {":INT in", ":FLOAT in", ":{"})
    if (const std::size_t at = value.find(check); at != std::string::npos) return value.substr(0, at);
  return value;
}

/// `start|stamp`, `{a4,letter}`.
std::vector<std::string> choicesOf(const std::string& value) {
  const std::size_t open = value.find('{');
  const char between = open == std::string::npos ? '|' : ',';
  std::string list = open == std::string::npos ? value : value.substr(open + 1, value.find('}') - open - 1);
  std::vector<std::string> choices;
  const bool areWords =
      std::none_of(list.begin(), list.end(), [](unsigned char c) { return std::isupper(c); });
  if (list.find(between) == std::string::npos || !areWords) return choices;
  for (std::size_t from = 0; from <= list.size();) {
    const std::size_t to = std::min(list.find(between, from), list.size());
    choices.push_back(list.substr(from, to - from));
    from = to + 1;
  }
  return choices;
}

Option optionOf(const CLI::Option& given) {
  Option option;
  for (const std::string& name : given.get_snames()) option.names.push_back("-" + name);
  for (const std::string& name : given.get_lnames()) option.names.push_back("--" + name);
  option.isPositional = option.names.empty();
  if (option.isPositional) option.names.push_back(given.get_name(true));
  if (given.get_items_expected_max() > 0)
    option.value = option.isPositional ? upper(option.name()) : valueOf(given);
  option.choices = choicesOf(given.get_type_name());
  option.text = given.get_description();
  option.isRequired = given.get_required();
  option.isRepeated = given.get_expected_max() > 1;
  for (const CLI::Option* other : given.get_excludes()) option.excludes.push_back(other->get_name());
  std::sort(option.excludes.begin(), option.excludes.end());
  return option;
}

void addOptions(const CLI::App& app, std::vector<Option>& options) {
  for (const CLI::Option* option : app.get_options()) options.push_back(optionOf(*option));
  for (const CLI::App* group : app.get_subcommands({}))
    if (group->get_name().empty()) addOptions(*group, options);
}

std::string usageOf(const Option& option) {
  std::string text = option.isPositional ? option.value : option.name();
  if (!option.isPositional && !option.value.empty()) text += " " + option.value;
  if (!option.isRequired) text = "[" + text + "]";
  return option.isRepeated ? text + "…" : text;
}

}  // namespace

bool Option::takesFile() const { return value == "SESSION" || value == "FILE" || value == "FILES"; }
bool Option::takesFolder() const { return value == "FOLDER"; }

std::string Command::word() const { return name.substr(name.rfind(' ') + 1); }

std::vector<std::string> Command::usage() const {
  std::vector<std::string> parts;
  const auto add = [&](bool isPositional) {
    for (const Option& option : options)
      if (option.isPositional == isPositional && option.name() != "--help") parts.push_back(usageOf(option));
  };
  add(true);
  add(false);
  return parts;
}

Command commandOf(const CLI::App& app, const std::string& name) {
  Command command;
  command.name = name;
  command.text = app.get_description();
  command.ending = app.get_footer();
  addOptions(app, command.options);
  for (const CLI::App* one : app.get_subcommands({}))
    if (!one->get_name().empty()) command.commands.push_back(commandOf(*one, name + " " + one->get_name()));
  return command;
}

}  // namespace octaphon::manual
