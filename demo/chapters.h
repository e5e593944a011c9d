// A small session for each usual delivery, as docs/chapters.md tells of them: Tidewheel again, a few seconds
// each.
#pragma once

#include <string>
#include <vector>

#include "session/session.h"
#include "tidewheel_sounds.h"

namespace octaphon::demo {

struct Chapter {
  std::string name;  ///< of its folder and session file: `variations`
  std::vector<Recording> recordings;
  Session session;
};

std::vector<Chapter> chapters();

}  // namespace octaphon::demo
