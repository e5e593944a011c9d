#include "brief/held_back.h"

#include <algorithm>
#include <set>

namespace octaphon {

void setHeldBack(Brief& brief, const std::vector<std::string>& keys, bool on) {
  const std::string head = brief.id + "/";
  std::set<std::string> held(brief.heldBack.begin(), brief.heldBack.end());
  for (const std::string& key : keys) {
    if (!key.starts_with(head)) continue;
    if (on)
      held.insert(key.substr(head.size()));
    else
      held.erase(key.substr(head.size()));
  }
  if (held.size() != brief.heldBack.size()) brief.heldBack.assign(held.begin(), held.end());
}

}  // namespace octaphon
