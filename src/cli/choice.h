// Options that take one of a few words.
#pragma once

#include <map>
#include <string>

#include <CLI/CLI.hpp>

namespace octaphon::cli {

/// The words stand in the help, and in the error where another is given.
template <class Value>
void addChoice(CLI::App& command, const char* name, Value& value, const std::map<std::string, Value>& words,
               const char* text) {
  std::string all;
  for (const auto& [word, meaning] : words) all += (all.empty() ? "" : "|") + word;
  command
      .add_option_function<std::string>(
          name,
          [&value, words, all](const std::string& given) {
            const auto found = words.find(given);
            if (found == words.end()) throw CLI::ValidationError("'" + given + "' is none of " + all);
            value = found->second;
          },
          text)
      ->type_name(all);
}

}  // namespace octaphon::cli
