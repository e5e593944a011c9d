#include "edit/facts.h"

namespace octaphon {

void setFact(Session& session, const std::string& id, const std::string& fact, const std::string& value) {
  const auto isIt = [&](const auto& thing) { return thing.id == id && !thing.lock; };
  const auto set = [&](auto& thing) {
    if (value.empty())
      thing.facts.erase(fact);
    else
      thing.facts[fact] = value;
  };
  changeWhere(session.regions, isIt, set);
  changeWhere(session.clipSets, isIt, set);
}

}  // namespace octaphon
