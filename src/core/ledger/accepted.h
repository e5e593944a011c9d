// What somebody takes as it is in a delivery, and why.
#pragma once

#include <string>
#include <vector>

namespace octaphon {

struct Accepted {
  std::string code;  ///< of a remark or a finding
  std::string reason;
  std::vector<std::string> rows;  ///< keys without the brief's id; an empty one: the brief as a whole
  bool operator==(const Accepted&) const = default;
};

}  // namespace octaphon
