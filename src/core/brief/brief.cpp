#include "brief/brief.h"

#include <algorithm>

namespace octaphon {

std::vector<Output> Brief::outputs() const {
  return files.outputs.empty() ? std::vector<Output>{{files.encoding}} : files.outputs;
}

int Brief::rateOf(const Output& output, int sessionRate) const {
  if (output.rate > 0) return output.rate;
  return files.rate > 0 ? files.rate : sessionRate;
}

std::string pairOfRow(std::string_view row) {
  for (int part = 0; part < 2; ++part) row = row.substr(0, std::min(row.rfind('/'), row.size()));
  return std::string(row);
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
