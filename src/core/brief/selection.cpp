#include "brief/selection.h"

#include <algorithm>

namespace octaphon {

std::optional<std::vector<std::string>> Selection::handPicked() const {
  std::vector<std::string> ids;
  for (const Pick& pick : picks) {
    if (pick.by != PickBy::Id || pick.out) return std::nullopt;
    ids.push_back(pick.value);
  }
  return ids;
}

void Selection::setByHand(const std::string& id, bool isIn) {
  std::erase_if(picks, [&](const Pick& pick) { return pick.by == PickBy::Id && pick.value == id; });
  picks.push_back({!isIn, PickBy::Id, id});
}

}  // namespace octaphon
