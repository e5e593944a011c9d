// What a program takes, read off its own description of its options: manuals, completions and the overview in
// the documents are made of it.
#pragma once

#include <string>
#include <vector>

namespace CLI {
class App;
}

namespace octaphon::manual {

struct Option {
  std::vector<std::string> names;  ///< `-h`, `--help`; of what has none, `session`
  std::string value;               ///< `NAME`; empty: it is a switch
  std::string text;
  std::vector<std::string> choices;   ///< where it takes one of a few words
  std::vector<std::string> excludes;  ///< names
  bool isRequired = false, isRepeated = false, isPositional = false;

  const std::string& name() const { return names.back(); }  ///< the long one
  bool takesFile() const;
  bool takesFolder() const;
};

struct Command {
  std::string name;  ///< `octaphon-cli plan`
  std::string text;
  std::string ending;  ///< exit codes
  std::vector<Option> options;
  std::vector<Command> commands;

  std::string word() const;  ///< `plan`
  /// `SESSION FILE… [--rate HZ] [--copy]`
  std::vector<std::string> usage() const;
};

Command commandOf(const CLI::App& app, const std::string& name);

}  // namespace octaphon::manual
