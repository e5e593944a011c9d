#include "run/media_watch.h"

#include <set>

namespace octaphon {

void MediaWatch::look(Frame from, Frame to) {
  std::set<std::string> seen;
  for (const HeardClip& clip : recipe_.heard()) {
    if (clip.from >= to || clip.to <= from) continue;
    const std::string& id = recipe_.context().finder.clipOf(clip).medium;
    if (!seen.insert(id).second) continue;
    const ReadableMedium* medium = media_.find(id);
    const Result<> unchanged = medium == nullptr ? Result<>{} : medium->checkUnchanged();
    if (!unchanged) changed_.emplace(id, unchanged.error());
  }
}

}  // namespace octaphon
