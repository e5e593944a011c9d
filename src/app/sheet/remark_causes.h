// The remarks of a sheet by their cause.
#pragma once

#include <string>
#include <vector>

#include "plan/sheet.h"

namespace octaphon::app {

struct RemarkCause {
  RemarkCode code{};
  Severity severity = Severity::Note;  ///< the gravest
  bool isAccepted = false;
  std::string example;              ///< text of the first
  std::vector<std::size_t> rows;    ///< of the sheet
  std::vector<std::size_t> briefs;  ///< those that it is about as a whole
  std::string reason = {};          ///< of the first that was accepted
  std::size_t count() const { return rows.size() + briefs.size(); }
};

/// The gravest first, then those of most rows; what was accepted last.
std::vector<RemarkCause> causesOf(const Sheet& sheet);

}  // namespace octaphon::app
