#include "edit/media.h"

#include <algorithm>

namespace octaphon {

bool takeAsItIs(Session& session, const std::string& medium, const MediumFact& fact) {
  if (fact.state != MediumFact::State::Different) return false;
  const auto found = std::find_if(session.media.begin(), session.media.end(),
                                  [&](const Medium& one) { return one.id == medium; });
  if (found == session.media.end()) return false;
  found->frames = fact.info.frames;
  found->rate = fact.info.rate;
  found->content = fact.content.hex();
  return true;
}

}  // namespace octaphon
