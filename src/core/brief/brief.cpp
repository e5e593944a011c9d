#include "brief/brief.h"

#include <algorithm>

namespace octaphon {

std::vector<Output> Brief::outputs() const {
  std::vector<Output> outputs{{files.encoding, {}, {}}};
  outputs.insert(outputs.end(), files.more.begin(), files.more.end());
  return outputs;
}

Brief newBrief() {
  Brief brief;
  brief.delivery.existing = Existing::Replace;
  return brief;
}

const Overrides* Brief::exceptionOf(std::string_view strip) const {
  const auto found = std::find_if(heard.exceptions.begin(), heard.exceptions.end(),
                                  [&](const TrackException& exception) { return exception.track == strip; });
  return found == heard.exceptions.end() ? nullptr : &found->overrides;
}

}  // namespace octaphon
