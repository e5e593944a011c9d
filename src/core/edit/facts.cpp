#include "edit/facts.h"

namespace octaphon {

void setFact(Session& session, const std::string& id, const std::string& fact, const std::string& value) {
  const auto set = [&](auto& things) {
    for (auto& thing : things) {
      if (thing.id != id || thing.lock) continue;
      if (value.empty())
        thing.facts.erase(fact);
      else
        thing.facts[fact] = value;
    }
  };
  set(session.regions);
  set(session.clipSets);
}

}  // namespace octaphon
