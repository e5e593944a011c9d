// What a selection says, in words.
#pragma once

#include <functional>
#include <string>

#include "brief/selection.h"

namespace octaphon {

/// What a selection is about.
struct PickedKind {
  const char* singular;
  const char* plural;  ///< null: with an s
  /// Name of a thing by its id; of `under` the name of the group. Empty where it is gone.
  std::function<std::string(const std::string& id)> nameOf = {};
};

/// One line without its kind: `under Winch`, `tagged wet`, `named *Start*`; of a thing by hand its name.
std::string pickWords(const Pick& pick, const PickedKind& kind);

/// `under Winch and those tagged wet, but not those named *old* nor Chain`: all lines, for what follows the
/// kind's name. Things by hand are counted where there are several.
std::string rulesText(const Selection& selection, const PickedKind& kind);

}  // namespace octaphon
