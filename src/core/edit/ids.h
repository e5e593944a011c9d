// Ids for things that are made while editing.
#pragma once

#include <string>
#include <string_view>
#include <unordered_map>
#include <unordered_set>

#include "session/session.h"

namespace octaphon {

/// Hands out ids that no track, clip, medium, region, marker, set or brief of the session has, nor one handed
/// out before: `r1`, `r2` … One maker for one edit.
class IdMaker {
 public:
  explicit IdMaker(const Session& session);
  /// `kind` is a short prefix: letters only.
  std::string next(std::string_view kind);
  /// Whether the id can be given to something new; then it is taken.
  bool take(const std::string& id);

 private:
  std::unordered_set<std::string> taken_;
  std::unordered_map<std::string, unsigned long> last_;
};

}  // namespace octaphon
