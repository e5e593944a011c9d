// Settings of a phrase that are kept by name, to be given to other briefs.
#pragma once

#include <string>

namespace octaphon {

struct Preset {
  std::string name;
  std::string phrase;         ///< PhraseInfo::name of what it is for: `tail`
  std::string values = "{}";  ///< JSON: the keys of the phrase and their values
  std::string unknownKeys = {};
  bool operator==(const Preset&) const = default;
};

}  // namespace octaphon
